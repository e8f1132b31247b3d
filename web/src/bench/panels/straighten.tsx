import type { Placement } from "../../api/client";
import { Button } from "../../ui/button";
import { toExact, toNumber } from "../../ui/exact";
import { SliderRow } from "../../ui/slider-row";
import { TickRow } from "../../ui/tick-row";
import { useBench } from "../state/use-bench";

/** Laying the horizon level, covering what that leaves empty, and mirroring. */
export function Straighten() {
  const { plan, change, commit, levelling, show } = useBench("plan", "change", "commit", "levelling", "show");
  const { placement } = plan;
  const turned = (fields: Partial<Placement>) => ({ ...plan, placement: { ...placement, ...fields } });
  const angle = (degrees: number) => turned({ angle: toExact(degrees, 3) });
  return (
    <>
      <SliderRow
        label="Straighten"
        {...{ unit: "°", low: -10, high: 10, step: 0.1, initial: 0, typedLow: -45, typedHigh: 45 }}
        value={toNumber(placement.angle)}
        onChange={(degrees) => change(angle(degrees))}
        onCommit={(degrees) => commit(angle(degrees), "Straightened")}
      />
      <div className="flex flex-wrap gap-2">
        <Button
          look={levelling ? "main" : "plain"}
          onClick={() => show({ levelling: !levelling, ...(!levelling && { onSource: false }) })}
        >
          Level to horizon
        </Button>
        <Button
          look={placement.sizing === "cover" ? "main" : "plain"}
          title="The smallest scale that leaves no part of the frame empty at this angle and position"
          onClick={() => commit(turned({ sizing: "cover" }), "Just covers")}
        >
          Scale to cover
        </Button>
      </div>
      <TickRow
        ticked={placement.mirror}
        onChange={(mirror) => commit(turned({ mirror }), mirror ? "Mirrored" : "Not mirrored")}
      >
        Mirror the picture
      </TickRow>
    </>
  );
}
