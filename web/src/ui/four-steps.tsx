import type { ReactNode } from "react";

/** The whole job in four drawings: what comes in, into what, how, and what goes out. */
export function FourSteps() {
  return (
    <ol className="grid max-w-5xl grid-cols-4 snug:grid-cols-2 narrow:grid-cols-1 gap-6">
      <Step number={1} title="Add clips" drawing={<Coming />}>
        Drop files or a folder anywhere. Any shape and rate, tape or phone, stills as well.
      </Step>
      <Step number={2} title="Choose frames" drawing={<Frames />}>
        The sizes to deliver, from a list or your own.
      </Step>
      <Step number={3} title="Review" drawing={<Framed />}>
        Every clip stands in every frame already, undistorted, with a surround. Change what you like; see what
        it costs.
      </Step>
      <Step number={4} title="Render" drawing={<Going />}>
        Render all. Every file is opened again, measured and passed or failed.
      </Step>
    </ol>
  );
}

type StepProps = { number: number; title: string; drawing: ReactNode; children: ReactNode };

function Step({ number, title, drawing, children }: StepProps) {
  return (
    <li className="grid content-start gap-2">
      <svg viewBox="0 0 160 96" aria-hidden="true" className="w-full max-w-60 bg-sheet text-soft">
        {drawing}
      </svg>
      <h3 className="font-semibold">
        <span className="num mr-1.5 text-soft">{number}</span>
        {title}
      </h3>
      <p className="text-soft">{children}</p>
    </li>
  );
}

/** A picture: a hill and a lamp, in whatever shape. */
function Picture({ x, y, width, height }: { x: number; y: number; width: number; height: number }) {
  const ground = y + height * 0.68;
  return (
    <g>
      <rect {...{ x, y, width, height }} className="fill-rule" />
      <path
        d={`M${x} ${y + height}V${ground}Q${x + width / 2} ${ground - height * 0.3} ${x + width} ${ground}V${y + height}Z`}
        className="fill-moss"
      />
      <circle
        cx={x + width * 0.7}
        cy={y + height * 0.28}
        r={Math.min(width, height) * 0.1}
        className="fill-ochre"
      />
    </g>
  );
}

const LINE = { fill: "none", stroke: "currentColor", strokeWidth: 1.5 };

const Coming = () => (
  <>
    <Picture x={18} y={14} width={48} height={27} />
    <Picture x={76} y={10} width={22} height={39} />
    <Picture x={108} y={14} width={36} height={27} />
    {[42, 87, 126].map((x) => (
      <path key={x} d={`M${x} 56v12m-4-4 4 4 4-4`} {...LINE} />
    ))}
    <path d="M14 74v8h132v-8" {...LINE} />
  </>
);

const Frames = () => (
  <>
    <rect x={16} y={22} width={64} height={36} {...LINE} />
    <rect x={94} y={12} width={30} height={54} {...LINE} />
    <rect x={40} y={66} width={24} height={18} {...LINE} strokeDasharray="3 3" />
    <path d="M138 34v12m-6-6h12" {...LINE} />
  </>
);

const Framed = () => (
  <>
    <rect x={16} y={14} width={96} height={54} className="fill-moss" opacity={0.35} />
    <Picture x={49} y={14} width={30} height={54} />
    <rect x={16} y={14} width={96} height={54} {...LINE} />
    <path d="M24 82h80" {...LINE} />
    <rect x={70} y={77} width={6} height={10} className="fill-ink" />
    <path d="M124 24h22m-22 10h16m-16 10h20" {...LINE} />
  </>
);

const Going = () => (
  <>
    <path d="M36 10h38l14 14v62H36z" {...LINE} />
    <path d="M74 10v14h14" {...LINE} />
    <Picture x={43} y={36} width={38} height={22} />
    <path d="M43 68h30m-30 8h22" {...LINE} />
    <circle cx={112} cy={58} r={20} className="fill-moss" />
    <path d="m102 58 7 7 13-14" fill="none" strokeWidth={3} className="stroke-sheet" />
  </>
);
