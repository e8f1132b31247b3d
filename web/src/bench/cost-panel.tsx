import type { Measure } from "../api/client";
import { shown, toNumber } from "../ui/exact";
import { useKept } from "../ui/kept";
import { useBench } from "./state/use-bench";

/** What the placement takes and gives. */
export function CostPanel() {
  const { measure } = useBench("measure");
  const { summary } = measure;
  const [open, setOpen] = useKept("cost is open", false);
  return (
    <section aria-label="What it costs" className="grid gap-2">
      <h2>
        <button
          type="button"
          aria-expanded={open}
          className="flex min-h-6 w-full items-baseline gap-2 text-left"
          onClick={() => setOpen(!open)}
        >
          <span aria-hidden="true" className={`w-2.5 text-soft ${open ? "rotate-90" : ""}`}>
            ›
          </span>
          <span className="font-semibold">What it costs</span>
          <span className={`num ml-auto text-right ${summary.loses ? "text-rust" : "text-moss"}`}>
            {summary.lost}
          </span>
        </button>
      </h2>
      {open && <Figures measure={measure} />}
      {measure.cautions.map(({ kind, message, wrong }) => (
        <p key={kind} className={`border-l-3 pl-3 ${wrong ? "border-rust" : "border-edge"}`}>
          {message}
        </p>
      ))}
    </section>
  );
}

/** All of it, in numbers. */
function Figures({ measure: { cost } }: { measure: Measure }) {
  const sides = [
    ["left", cost.lost_left],
    ["right", cost.lost_right],
    ["top", cost.lost_top],
    ["bottom", cost.lost_bottom],
  ].filter(([, length]) => toNumber(length ?? "0") > 0);
  return (
    <>
      <Row
        name="Picture kept"
        value={`${shown(cost.kept_percent, 1)}%`}
        share={toNumber(cost.kept_percent) / 100}
      />
      <Row
        name="Frame covered"
        value={`${shown(cost.covered_percent, 1)}%`}
        share={toNumber(cost.covered_percent) / 100}
      />
      <Row
        name="Scale"
        value={`${shown(100 * toNumber(cost.enlargement), 1)}%`}
        share={toNumber(cost.enlargement) / 2}
      />
      <Row name="Shape" value={shape(toNumber(cost.shape))} />
      {sides.length > 0 && (
        <p className="num text-rust">
          cropped: {sides.map(([side, length]) => `${side} ${shown(length ?? "0", 1)} px`).join(", ")} of the
          source
        </p>
      )}
    </>
  );
}

function shape(error: number): string {
  return error === 1 ? "true" : `stretched ${error.toFixed(3)}`;
}

function Row({ name, value, share }: { name: string; value: string; share?: number }) {
  return (
    <div>
      <p className="flex justify-between">
        {name}
        <span className="num">{value}</span>
      </p>
      {share !== undefined && (
        <div className="mt-0.5 h-0.5 bg-rule">
          <div className="h-full bg-ink" style={{ width: `${Math.min(1, share) * 100}%` }} />
        </div>
      )}
    </div>
  );
}
