import type { Footage, Plan } from "../../api/client";
import { Button } from "../../ui/button";
import { toNumber } from "../../ui/exact";
import { Fold } from "../../ui/fold";
import { ProblemNote } from "../../ui/problem-note";
import type { Looking } from "../use-looking";
import type { RangeOf } from "../use-range";
import { Exclusion } from "./exclusion";
import { Outside } from "./outside";
import { SidePart } from "./side-part";
import { ToFit } from "./to-fit";
import { type ExtensionOf, ON_ITS_WAY, SIDES } from "./use-extension";

type Props = {
  framingId: number;
  projectId: number;
  footage: Footage;
  plan: Plan;
  time: string;
  extension: ExtensionOf;
  looking: Looking;
  range: RangeOf;
  onChange: (plan: Plan) => void;
  onCommit: (plan: Plan, label: string) => void;
};

const UPRIGHT = ["left", "right"] as const;

/** Extending the scene: whether it works, the options for each side, and the share of real pixels. */
export function ExtendedPart(props: Props) {
  const { framingId, footage, plan, time, extension, looking, range, onChange, onCommit } = props;
  const { extended, standing, error } = extension;
  if (!extended) return null;
  const verdict = standing?.verdict;
  const job = standing?.looking;
  const camera = verdict?.camera.move;
  const moves = camera === "panning" || camera === "drifting";
  const otherwise = verdict && moves !== (extended.camera === "moving");
  const rest = SIDES.filter((side) => !UPRIGHT.includes(side as never));
  const sides = (each: readonly (typeof SIDES)[number][]) => (
    <div className="grid grid-cols-1 gap-3">
      {each.map((side) => (
        <SidePart key={side} {...{ framingId, side, plan, time, extension, onChange, onCommit }} />
      ))}
    </div>
  );
  return (
    <section aria-label="Extending" className="grid gap-3">
      <ProblemNote error={error} />
      {job && ON_ITS_WAY.includes(job.state) && (
        <p role="status" className="border-l-3 border-ochre pl-3">
          Looking at its sides … <span className="num">{job.done_percent}%</span>
        </p>
      )}
      {job?.problem && <p className="text-soft">{job.problem}</p>}
      <Making {...{ extension }} />
      {otherwise && (
        <p className="border-l-3 border-ochre pl-3">
          {moves
            ? "The camera moves: real pixels of other moments can stand beside the picture."
            : "The camera stands here."}{" "}
          <button type="button" className="text-ochre underline" onClick={() => extension.begin(plan)}>
            Use that
          </button>
        </p>
      )}
      <Shares {...{ extension }} />
      <div className="flex flex-wrap gap-2">
        <Button aria-pressed={looking.tinted} onClick={looking.tint} title="T">
          Highlight invented pixels
        </Button>
        <Button aria-pressed={looking.compared} onClick={looking.compare}>
          Before/after
        </Button>
      </div>
      <p className="text-soft">Space plays it: this is judged moving.</p>
      <ToFit {...{ footage, extension, range, time }} />
      {sides(UPRIGHT)}
      <Fold
        title="Above and below"
        state={rest.some((side) => extended[side]) ? "extended" : "left alone"}
        open={rest.some((side) => extended[side])}
      >
        {sides(rest)}
      </Fold>
      {extended.camera === "still" && <Exclusion {...{ footage, plan, time, extension, onCommit }} />}
      <Outside {...{ framingId, plan, time, extension, onCommit }} />
    </section>
  );
}

/** Plates in progress, and those that failed. */
function Making({ extension }: { extension: ExtensionOf }) {
  const { standing, plate } = extension;
  const whole = standing?.plates.filter(({ draft }) => !draft) ?? [];
  return whole.map((one) => {
    if (ON_ITS_WAY.includes(one.state))
      return (
        <p key={one.id} role="status" className="flex items-baseline gap-2 border-l-3 border-ochre pl-3">
          <span>
            Making it at full size … <span className="num">{one.done_percent}%</span>
          </span>
          <button
            type="button"
            className="text-ochre underline"
            onClick={() => plate({ id: one.id, verb: "cancel" })}
          >
            cancel
          </button>
        </p>
      );
    if (one.state === "failed" || one.state === "cancelled")
      return (
        <p key={one.id} role="status" className="border-l-3 border-rust pl-3">
          {one.problem || "It was cancelled; a draft is seen where there is one."} {one.remedy}{" "}
          <button
            type="button"
            className="text-ochre underline"
            onClick={() => plate({ id: one.id, verb: "retry" })}
          >
            Try again
          </button>
        </p>
      );
    return null;
  });
}

/** How much of the frame is real. */
function Shares({ extension }: { extension: ExtensionOf }) {
  const shares = extension.standing?.shares;
  if (!shares) return null;
  const parts = [
    { name: "real", value: shares.real, colour: "bg-moss" },
    { name: "real, of other moments", value: shares.elsewhen, colour: "bg-[#3c8cdc]" },
    { name: "invented", value: shares.invented, colour: "bg-[#e6781e]" },
    { name: "not covered", value: shares.beyond, colour: "bg-rule" },
  ].filter(({ value }) => toNumber(value) >= 0.1);
  return (
    <div className="grid gap-1">
      <div className="flex h-1.5" aria-hidden="true">
        {parts.map(({ name, value, colour }) => (
          <span key={name} className={colour} style={{ width: `${toNumber(value)}%` }} />
        ))}
      </div>
      {parts.map(({ name, value, colour }) => (
        <p key={name} className="flex items-center justify-between">
          <span className="flex items-center gap-1.5">
            <span aria-hidden="true" className={`h-2 w-2 ${colour}`} />
            {name}
          </span>
          <span className="num">{toNumber(value).toFixed(1)}%</span>
        </p>
      ))}
      {(extension.standing?.short.length ?? 0) > 0 && (
        <p className="text-rust">The plate ends within the frame: {extension.standing?.short.join(", ")}.</p>
      )}
    </div>
  );
}
