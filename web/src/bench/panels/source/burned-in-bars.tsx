import type { Edges, Schemas } from "../../../api/client";
import { FailedAnalyses } from "../../../intake/failed-analyses";
import { Button } from "../../../ui/button";
import { shown, toExact, toNumber } from "../../../ui/exact";
import { Fold } from "../../../ui/fold";
import { NumberField } from "../../../ui/number-field";
import { useInterpretation } from "./use-interpretation";

const NONE: Edges = { left: "0", right: "0", top: "0", bottom: "0" };
const SIDES = ["left", "right", "top", "bottom"] as const;

/** Black bars in the picture: those found, and those cropped. */
export function BurnedInBars() {
  const { footage, set } = useInterpretation();
  const { bars, stated, analysing } = footage;
  const edges = stated.burned_in_bars ?? NONE;
  const onTakeOff = (burned_in_bars: Edges) => set({ burned_in_bars });
  const found = bars && ["bars", "surround", "changing"].includes(bars.kind);
  const state =
    stated.burned_in_bars == null
      ? found
        ? "not decided"
        : ""
      : sum(edges)
        ? "taken off"
        : "part of the picture";
  return (
    <Fold title="Black bars in the picture" state={state} open={Boolean(found)}>
      <p className={found && stated.burned_in_bars == null ? "text-rust" : "text-soft"}>
        {bars?.summary ?? (analysing ? "Looking for black bars …" : "The pictures could not be analysed.")}
        {found && bars.confidence_percent > 0 && (
          <span className="num"> {bars.confidence_percent}% sure</span>
        )}
      </p>
      <FailedAnalyses footage={footage} />
      {bars && bars.stretches.length > 0 && <Stretches {...{ bars, onTakeOff }} />}
      <div className="flex flex-wrap gap-2">
        {found && sum(bars.edges) > 0 && (
          <Button onClick={() => set({ burned_in_bars: bars.edges })}>Crop bars</Button>
        )}
        <Button onClick={() => set({ burned_in_bars: NONE })}>Keep bars</Button>
        {stated.burned_in_bars != null && (
          <Button onClick={() => set({ burned_in_bars: null })}>Not decided</Button>
        )}
      </div>
      <div className="grid grid-cols-2 gap-2">
        {SIDES.map((side) => (
          <div key={side} className="grid grid-cols-[48px_1fr] items-center gap-1">
            <span className="first-letter:uppercase">{side}</span>
            <NumberField
              label={`Bar ${side}, in stored pixels`}
              {...{ unit: "px", low: 0, high: 8192, step: 1 }}
              value={toNumber(edges[side])}
              onCommit={(value) => set({ burned_in_bars: { ...edges, [side]: toExact(value) } })}
            />
          </div>
        ))}
      </div>
      <p className="text-soft">Or drag the edges in the viewer.</p>
    </Fold>
  );
}

type StretchesProps = { bars: Schemas["BurnedInBars"]; onTakeOff: (edges: Edges) => void };

/** Bars that change over time, with the time of each. */
const Stretches = ({ bars, onTakeOff }: StretchesProps) => (
  <ul className="num text-soft">
    {bars.stretches.map(({ start, end, edges: part }) => (
      <li key={start}>
        {shown(start, 2)} to {shown(end, 2)} s: {words(part)}
        {sum(part) > 0 && (
          <Button look="link" className="ml-2" onClick={() => onTakeOff(part)}>
            take off
          </Button>
        )}
      </li>
    ))}
  </ul>
);

const sum = (edges: Edges) => SIDES.reduce((total, side) => total + toNumber(edges[side]), 0);

function words(edges: Edges): string {
  const sides = SIDES.filter((side) => toNumber(edges[side]) > 0);
  return sides.map((side) => `${side} ${shown(edges[side])}`).join(", ") || "none";
}
