import { useQuery } from "@tanstack/react-query";
import { api, type Frame, type FrameRow } from "../../../api/client";
import { catalogueQuery } from "../../../api/queries";
import { useChoices } from "../../../api/use-choices";
import { useSend } from "../../../api/use-send";
import { SettingRows } from "../../../frames/setting-rows";
import { ChoiceRow } from "../../../ui/choice-row";
import { shown, toExact, toNumber } from "../../../ui/exact";
import { Fold } from "../../../ui/fold";
import { NumberField } from "../../../ui/number-field";
import { ProblemNote } from "../../../ui/problem-note";
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
      <Measures {...{ row, set }} />
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

/** The active picture by aspect, by lines and by percent: any of them can be typed, and gives the others. */
function Measures({ row, set }: Props) {
  const { frame, active } = row;
  const measure = useSend(
    (given: { by: "aspect" | "pixels" | "percent"; value: number }) =>
      api.POST("/api/catalogue/active", {
        body: { frame, bars: active.bars, by: given.by, value: toExact(given.value, 4) },
      }),
    { onSuccess: ({ aspect }) => set({ active: aspect }) },
  );
  const upright = active.bars === "left_right";
  const side = upright ? frame.width : frame.height;
  const fields = [
    {
      by: "aspect",
      label: "Aspect",
      name: "Aspect of the active picture",
      unit: ": 1",
      low: 0.1,
      high: 10,
      step: 0.01,
    },
    {
      by: "pixels",
      label: upright ? "Columns" : "Lines",
      name: `${upright ? "Columns" : "Lines"} of the active picture`,
      ...{ unit: "px", low: 1, high: side, step: 2 },
    },
    {
      by: "percent",
      label: "Bars",
      name: upright ? "Bar left and right, percent each" : "Bar above and below, percent each",
      ...{ unit: "% each", low: 0, high: 49.99, step: 0.5 },
    },
  ] as const;
  return (
    <>
      {fields.map(({ by, label, name, ...field }) => (
        <Row key={by} label={label}>
          <NumberField
            label={name}
            {...field}
            decimals={by === "pixels" ? 2 : 4}
            value={toNumber(active[by])}
            onCommit={(value) => measure.mutate({ by, value })}
          />
        </Row>
      ))}
      <ProblemNote error={measure.error} />
    </>
  );
}
