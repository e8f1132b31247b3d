import { useChoices } from "../../api/use-choices";
import { Button } from "../../ui/button";
import { toExact, toNumber } from "../../ui/exact";
import { NumberField } from "../../ui/number-field";
import { SliderRow } from "../../ui/slider-row";
import { Anchors } from "../anchors";
import { useBench } from "../state/use-bench";
import { Tile } from "../tile";
import { Tiles } from "../tiles";
import { placed, tightnessOf } from "../viewer/use-placing";
import { Straighten } from "./straighten";

/** Where the picture sits and how large. */
export function PlacementPanel() {
  const { plan } = useBench("plan");
  return (
    <section aria-label="Placement" className="grid gap-3">
      {plan.motion.keys.length > 0 && (
        <p className="border-l-3 border-ochre pl-3">
          The placement is keyframed. Drag in the viewer and choose which keyframes change; what they do not
          set is set here, by number.
        </p>
      )}
      <PlacementTiles />
      <SizeAndPosition />
      <PlacesInFrame />
      <Straighten />
      <p className="text-soft">
        Drag the picture in the viewer; scroll to scale; arrow keys move it one pixel, with Shift ten. Hold
        Alt to drag without snapping.
      </p>
    </section>
  );
}

const CENTRED = { offset_x: "0", offset_y: "0" };

/** Placements in one press: each moves the picture into the middle. */
function PlacementTiles() {
  const { plan, commit } = useBench("plan", "commit");
  const { placements } = useChoices();
  const { placement } = plan;
  const isChosen = ({ placement: { sizing, tightness } }: (typeof placements)[number]) =>
    placement.sizing === sizing &&
    (sizing !== "tightness" || toNumber(placement.tightness) === toNumber(tightness));
  return (
    <Tiles title="Placement" of="placements" chosen={placements.find(isChosen)?.title}>
      {placements.map((choice) => {
        const { sizing, tightness } = choice.placement;
        const sized = placed(plan, { sizing, tightness, ...CENTRED });
        return (
          <Tile
            key={choice.name}
            title={choice.title}
            plan={sized}
            chosen={isChosen(choice)}
            onChoose={() => commit(sized, choice.title)}
          />
        );
      })}
    </Tiles>
  );
}

/** The size and the position of the picture in numbers. */
function SizeAndPosition() {
  const { plan, measure, change, commit } = useBench("plan", "measure", "change", "commit");
  const { placement } = plan;
  const { limits } = measure;
  const tight = (percent: number) =>
    placed(plan, { sizing: "tightness", tightness: toExact(percent / 100, 4) });
  const scaled = (percent: number) => placed(plan, { sizing: "scale", scale: toExact(percent / 100, 6) });
  const offset = { low: -limits.offset, high: limits.offset, step: 1 };
  return (
    <>
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
          {...{ ...offset, unit: "px →" }}
          value={toNumber(placement.offset_x)}
          onCommit={(value) => commit(placed(plan, { offset_x: toExact(value) }), "Position")}
        />
        <NumberField
          label="Position Y, frame pixels"
          {...{ ...offset, unit: "px ↓" }}
          value={toNumber(placement.offset_y)}
          onCommit={(value) => commit(placed(plan, { offset_y: toExact(value) }), "Position")}
        />
      </div>
    </>
  );
}

/** Nine places in the frame, its middle, and stretching over all of it. */
function PlacesInFrame() {
  const { plan, commit } = useBench("plan", "commit");
  const { offset_x, offset_y, sizing } = plan.placement;
  const moved = toNumber(offset_x) !== 0 || toNumber(offset_y) !== 0;
  return (
    <div className="flex items-center gap-4">
      <Anchors onChoose={(x, y, label) => commit(placed(plan, { offset_x: x, offset_y: y }), label)} />
      <div className="grid gap-2">
        <Button disabled={!moved} onClick={() => commit(placed(plan, CENTRED), "Centred")}>
          Centre
        </Button>
        <Button
          look={sizing === "stretch" ? "main" : "plain"}
          title="Distorts the picture until it fills the frame"
          onClick={() => commit(placed(plan, { sizing: "stretch", ...CENTRED }), "Stretched")}
        >
          Stretch (distorts)
        </Button>
      </div>
    </div>
  );
}
