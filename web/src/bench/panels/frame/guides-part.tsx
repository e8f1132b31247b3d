import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { FrameRow } from "../../../api/client";
import { guidesQuery } from "../../../api/queries";
import { toExact, toNumber } from "../../../ui/exact";
import { Fold } from "../../../ui/fold";
import { NumberField } from "../../../ui/number-field";
import { TickRow } from "../../../ui/tick-row";
import { guideName, useGuides } from "../../viewer/guides";

const SIDES = ["left", "right", "top", "bottom"] as const;

type Props = { row: FrameRow; ask: (fields: Partial<FrameRow["delivery"]>) => void };

/** Guides over the frame, and a chart of them to load into a camera or a monitor. */
export function GuidesPart({ row, ask }: Props) {
  const { data } = useQuery(guidesQuery(row.id));
  const { shown: names, toggle } = useGuides();
  const [raster, setRaster] = useState("");
  const { margins } = row.delivery;
  const chosen = data?.guides.filter((guide) => names.includes(guideName(guide))) ?? [];
  const chart = (kind: string) =>
    `/api/frames/${row.id}/chart?${new URLSearchParams({
      kind,
      raster,
      only: [...new Set(chosen.map((guide) => guide.kind))].join(","),
    })}`;
  return (
    <Fold title="Guides" state={chosen.length ? `${chosen.length} shown` : "none shown"}>
      {data?.guides.map((guide) => (
        <TickRow
          key={guideName(guide)}
          ticked={names.includes(guideName(guide))}
          onChange={() => toggle(guideName(guide))}
        >
          {guide.name}
          {guide.source && <span className="text-soft">, {guide.source}</span>}
        </TickRow>
      ))}
      <p className="mt-1 text-soft">Covered by the screen's edge, in % of the frame</p>
      <div className="grid grid-cols-2 gap-2">
        {SIDES.map((side) => (
          <div key={side} className="grid grid-cols-[48px_1fr] items-center gap-1">
            <span className="first-letter:uppercase">{side}</span>
            <NumberField
              label={`Covered ${side}`}
              {...{ unit: "%", low: 0, high: 40, step: 0.5 }}
              value={toNumber(margins[side])}
              onCommit={(value) => ask({ margins: { ...margins, [side]: toExact(value) } })}
            />
          </div>
        ))}
      </div>
      <div className="flex items-center gap-2">
        <span>Chart</span>
        <input
          aria-label="Size of the test chart"
          placeholder={`${row.frame.width}x${row.frame.height}`}
          className="num w-28 rounded border border-edge bg-sheet px-2 py-1"
          value={raster}
          onChange={({ target }) => setRaster(target.value.replace(/[^0-9x×]/g, ""))}
        />
        <a className="text-ochre underline" href={chart("svg")} download>
          SVG
        </a>
        <a className="text-ochre underline" href={chart("png")} download>
          PNG
        </a>
      </div>
      <p className="text-soft">At the frame's size, or in the middle of a camera's raster that you type.</p>
    </Fold>
  );
}
