import type { Placement } from "../../api/client";
import { useChoices } from "../../api/use-choices";
import { Button } from "../../ui/button";
import { toExact, toNumber } from "../../ui/exact";
import { NumberField } from "../../ui/number-field";
import { SliderRow } from "../../ui/slider-row";
import { Anchors } from "../anchors";
import { useBench } from "../state/use-bench";
import { Tile } from "../tile";
import { Tiles } from "../tiles";
import { tightnessOf } from "../viewer/use-placing";
import { Straighten } from "./straighten";

/** Where the picture sits and how large. */
export function PlacementPanel() {
  const { plan, measure, change, commit } = useBench("plan", "measure", "change", "commit");
  const { placement } = plan;
  const { limits } = measure;
  const withPlacement = (fields: Partial<Placement>) => ({ ...plan, placement: { ...placement, ...fields } });
  const tight = (percent: number) =>
    withPlacement({ sizing: "tightness", tightness: toExact(percent / 100, 4) });
  const scaled = (percent: number) => withPlacement({ sizing: "scale", scale: toExact(percent / 100, 6) });
  // A size is chosen for the picture in its place: in the middle, where nothing has been moved yet.
  const sized = (fields: Partial<Placement>) => withPlacement({ ...fields, offset_x: "0", offset_y: "0" });
  const moved = toNumber(placement.offset_x) !== 0 || toNumber(placement.offset_y) !== 0;
  const { placements } = useChoices();
  const isChosen = ({ placement: { sizing, tightness } }: (typeof placements)[number]) =>
    placement.sizing === sizing &&
    (sizing !== "tightness" || toNumber(placement.tightness) === toNumber(tightness));
  return (
    <section aria-label="Placement" className="grid gap-3">
      {plan.motion.keys.length > 0 && (
        <p className="border-l-3 border-ochre pl-3">
          The placement is keyframed. Drag in the viewer and choose which keyframes change; what they do not
          set is set here, by number.
        </p>
      )}
      <Tiles title="Placement" of="placements" chosen={placements.find(isChosen)?.title}>
        {placements.map((choice) => {
          const { name, title } = choice;
          const { sizing, tightness } = choice.placement;
          return (
            <Tile
              key={name}
              title={title}
              plan={sized({ sizing, tightness })}
              chosen={isChosen(choice)}
              onChoose={() => commit(sized({ sizing, tightness }), title)}
            />
          );
        })}
      </Tiles>
      <SliderRow
        label="Fill amount"
        {...{ unit: "%", low: 0, high: 200, step: 1, initial: 0, typedHigh: limits.tightness * 100 }}
        value={tightnessOf(placement, measure) * 100}
        onChange={(percent) => change(tight(percent))}
        onCommit={(percent) => commit(tight(percent), "Fill amount")}
      />
      <div className="grid grid-cols-[84px_1fr_1fr] items-center gap-2.5">
        <span>Scale</span>
        <NumberField
          label="Scale, %"
          {...{ unit: "%", low: 100 / limits.scale, high: limits.scale * 100, step: 1 }}
          value={toNumber(measure.scale) * 100}
          onCommit={(percent) => commit(scaled(percent), "Scale")}
        />
        <span />
        <span>Position</span>
        <NumberField
          label="Position X, frame pixels"
          {...{ unit: "px →", low: -limits.offset, high: limits.offset, step: 1 }}
          value={toNumber(placement.offset_x)}
          onCommit={(value) => commit(withPlacement({ offset_x: toExact(value) }), "Position")}
        />
        <NumberField
          label="Position Y, frame pixels"
          {...{ unit: "px ↓", low: -limits.offset, high: limits.offset, step: 1 }}
          value={toNumber(placement.offset_y)}
          onCommit={(value) => commit(withPlacement({ offset_y: toExact(value) }), "Position")}
        />
      </div>
      <div className="flex items-center gap-4">
        <Anchors
          onChoose={(offset_x, offset_y, label) => commit(withPlacement({ offset_x, offset_y }), label)}
        />
        <div className="grid gap-2">
          <Button
            disabled={!moved}
            onClick={() => commit(withPlacement({ offset_x: "0", offset_y: "0" }), "Centred")}
          >
            Centre
          </Button>
          <Button
            look={placement.sizing === "stretch" ? "main" : "plain"}
            title="Distorts the picture until it fills the frame"
            onClick={() => commit(sized({ sizing: "stretch" }), "Stretched")}
          >
            Stretch (distorts)
          </Button>
        </div>
      </div>
      <Straighten />
      <p className="text-soft">
        Drag the picture in the viewer; scroll to scale; arrow keys move it one pixel, with Shift ten. Hold
        Alt to drag without snapping.
      </p>
    </section>
  );
}
