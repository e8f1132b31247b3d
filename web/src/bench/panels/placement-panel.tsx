import type { Placement } from "../../api/client";
import { toExact, toNumber } from "../../api/exact";
import { Button } from "../../ui/button";
import { NumberField } from "../../ui/number-field";
import { SliderRow } from "../../ui/slider-row";
import { Anchors } from "../anchors";
import { Tile } from "../tile";
import { Tiles } from "../tiles";
import type { Editing } from "../use-framing";
import { tightnessOf } from "../well/use-placing";
import { Straighten } from "./straighten";

const CHOICES = [
  { name: "whole", title: "Whole", sizing: "tightness", tightness: "0" },
  { name: "half", title: "Half fill", sizing: "tightness", tightness: "0.5" },
  { name: "fill", title: "Fill", sizing: "tightness", tightness: "1" },
  { name: "width", title: "Fit width", sizing: "width", tightness: "0" },
  { name: "height", title: "Fit height", sizing: "height", tightness: "0" },
  { name: "native", title: "Native size", sizing: "native", tightness: "0" },
] as const;

type Props = Editing & {
  framingId: number;
  time: string;
  straightening: boolean;
  onStraighten: (on: boolean) => void;
};

/** Where the picture sits and how large. */
export function PlacementPanel(props: Props) {
  const { framingId, time, plan, measure, change, commit } = props;
  const { placement } = plan;
  const { limits } = measure;
  const withPlacement = (fields: Partial<Placement>) => ({ ...plan, placement: { ...placement, ...fields } });
  const tight = (percent: number) =>
    withPlacement({ sizing: "tightness", tightness: toExact(percent / 100, 4) });
  const scaled = (percent: number) => withPlacement({ sizing: "scale", scale: toExact(percent / 100, 6) });
  // A size is chosen for the picture in its place: in the middle, where nothing has been moved yet.
  const sized = (fields: Partial<Placement>) => withPlacement({ ...fields, offset_x: "0", offset_y: "0" });
  const moved = toNumber(placement.offset_x) !== 0 || toNumber(placement.offset_y) !== 0;
  const isChosen = ({ sizing, tightness }: Pick<(typeof CHOICES)[number], "sizing" | "tightness">) =>
    placement.sizing === sizing &&
    (sizing !== "tightness" || toNumber(placement.tightness) === Number(tightness));
  return (
    <section aria-label="Placement" className="grid gap-3">
      {plan.motion.keys.length > 0 && (
        <p className="border-l-3 border-ochre pl-3">
          The placement is keyframed. Drag in the viewer and choose which keyframes change; what they do not
          set is set here, by number.
        </p>
      )}
      <Tiles title="Placement" of="placements" chosen={CHOICES.find(isChosen)?.title}>
        {CHOICES.map(({ name, title, sizing, tightness }) => (
          <Tile
            key={name}
            {...{ framingId, name, title, time }}
            plan={sized({ sizing, tightness })}
            chosen={isChosen({ sizing, tightness })}
            onChoose={() => commit(sized({ sizing, tightness }), title)}
          />
        ))}
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
          measure={measure}
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
      <Straighten {...props} />
      <p className="text-soft">
        Drag the picture in the viewer; scroll to scale; arrow keys move it one pixel, with Shift ten. Hold
        Alt to drag without snapping.
      </p>
    </section>
  );
}
