import type { Placement } from "../../api/client";
import { toExact, toNumber } from "../../api/exact";
import { Button } from "../../ui/button";
import { NumberField } from "../../ui/number-field";
import { SliderRow } from "../../ui/slider-row";
import { Tile } from "../tile";
import type { Changer } from "../use-framing";

const CHOICES = [
  { name: "whole", title: "Whole", tightness: "0" },
  { name: "half", title: "Half tight", tightness: "0.5" },
  { name: "fill", title: "Fill", tightness: "1" },
];

type Props = Changer & { framingId: number; time: string };

/** Where the picture sits and how large. */
export function PlacementPanel({ framingId, time, plan, change, commit }: Props) {
  const { placement } = plan;
  const withPlacement = (fields: Partial<Placement>) => ({ ...plan, placement: { ...placement, ...fields } });
  const tight = (percent: number) => withPlacement({ tightness: toExact(percent / 100, 4) });
  return (
    <section aria-label="Placement" className="grid gap-3">
      <h2 className="font-semibold">Placement</h2>
      <div className="grid grid-cols-3 gap-2">
        {CHOICES.map(({ name, title, tightness }) => (
          <Tile
            key={name}
            {...{ framingId, name, title, time }}
            plan={withPlacement({ tightness })}
            chosen={toNumber(placement.tightness) === Number(tightness)}
            onChoose={() => commit(withPlacement({ tightness }), title)}
          />
        ))}
      </div>
      <SliderRow
        label="Tightness"
        {...{ unit: "%", low: 0, high: 200, step: 1, initial: 0, typedHigh: 800 }}
        value={toNumber(placement.tightness) * 100}
        onChange={(percent) => change(tight(percent))}
        onCommit={(percent) => commit(tight(percent), "Tightness")}
      />
      <div className="grid grid-cols-[84px_1fr_1fr] items-center gap-2.5">
        <span>Moved</span>
        <NumberField
          label="Moved right, in frame pixels"
          {...{ unit: "px →", low: -100000, high: 100000, step: 1 }}
          value={toNumber(placement.offset_x)}
          onCommit={(value) => commit(withPlacement({ offset_x: toExact(value) }), "Moved")}
        />
        <NumberField
          label="Moved down, in frame pixels"
          {...{ unit: "px ↓", low: -100000, high: 100000, step: 1 }}
          value={toNumber(placement.offset_y)}
          onCommit={(value) => commit(withPlacement({ offset_y: toExact(value) }), "Moved")}
        />
      </div>
      <Button
        className="justify-self-start"
        disabled={toNumber(placement.offset_x) === 0 && toNumber(placement.offset_y) === 0}
        onClick={() => commit(withPlacement({ offset_x: "0", offset_y: "0" }), "Centred")}
      >
        Centre
      </Button>
      <p className="text-soft">
        Drag the picture in the well; the wheel enlarges it; arrow keys nudge it by one pixel, with Shift by
        ten. Alt while dragging leaves snapping out.
      </p>
    </section>
  );
}
