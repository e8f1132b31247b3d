import { useQuery } from "@tanstack/react-query";
import type { Frame, FrameRow } from "../../../api/client";
import { catalogueQuery } from "../../../api/queries";
import { useChoices } from "../../../api/use-choices";
import { aspectOf } from "../../../frames/aspect";
import { SettingRows } from "../../../frames/setting-rows";
import { ChoiceRow } from "../../../ui/choice-row";
import { shown, toExact, toNumber } from "../../../ui/exact";
import { Fold } from "../../../ui/fold";
import { NumberField } from "../../../ui/number-field";
import { Row } from "../../../ui/row";
import { useBench } from "../../state/use-bench";

type Props = { row: FrameRow; set: (fields: Partial<Frame>) => void };

/** The active picture inside the frame, into which every clip is placed; outside it are bars, or the surround. */
export function ActivePicture({ row, set }: Props) {
  const { measure } = useBench("measure");
  const { data: catalogue } = useQuery(catalogueQuery);
  const { active_pictures, frame_outside } = useChoices();
  const { active } = row.frame;
  const films = (catalogue?.ratios ?? []).map(({ aspect, name }) => ({ value: aspect, title: name }));
  const choices = [{ value: "", title: "Whole frame" }, ...films, ...active_pictures];
  const own = active && !choices.some(({ value }) => value === active);
  const exact = (side: "width" | "height") => shown(measure.active[side]);
  const drawn = (side: "width" | "height") => shown(measure.drawn[side]);
  return (
    <Fold title="Active picture" state={active ? shown(active) : "whole frame"} open>
      <ChoiceRow
        label="Active picture"
        value={active ?? ""}
        choices={own ? [...choices, { value: active, title: shown(active, 4) }] : choices}
        onChange={(value) => set({ active: value || null })}
      />
      <Row label="Own aspect">
        <NumberField
          label="Aspect of the active picture"
          {...{ unit: ": 1", low: 0.1, high: 10, step: 0.01, decimals: 4 }}
          value={toNumber(active ?? "0") || aspectOf(row.frame)}
          onCommit={(value) => set({ active: toExact(value, 4) })}
        />
      </Row>
      {active && (
        <>
          <p className="num text-soft">
            {exact("width")} × {exact("height")}, drawn as {drawn("width")} × {drawn("height")}
          </p>
          <SettingRows settings={frame_outside} values={row.frame} set={set} />
        </>
      )}
    </Fold>
  );
}
