import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { answered, api, type Board, type FrameRow, type Framing, type Measure } from "../../api/client";
import { shown, toNumber } from "../../api/exact";
import { refreshFramings } from "../../api/queries";
import { AddFrame, Outline } from "../../board/add-frame";
import { Button } from "../../ui/button";
import { ColourRow } from "../../ui/colour-row";
import { NumberField } from "../../ui/number-field";
import { ProblemNote } from "../../ui/problem-note";

type Props = { board: Board; framing: Framing; measure: Measure };

/** The frames of the project; choosing one opens this clip in it. */
export function FramePanel({ board, framing, measure }: Props) {
  const current = board.frames.find((row) => row.id === framing.frame);
  const into = (frameId: number) =>
    board.framings.find((other) => other.footage === framing.footage && other.frame === frameId);
  return (
    <section aria-label="Frame" className="grid gap-3">
      <h2 className="font-semibold">Frame</h2>
      <ul className="grid gap-2">
        {board.frames.map((row) => (
          <li key={row.id}>
            <Link
              to={`/projects/${board.id}/framings/${into(row.id)?.id ?? framing.id}?step=frame`}
              aria-current={row.id === framing.frame ? "true" : undefined}
              className={`flex items-center gap-3 rounded border-2 bg-sheet px-3 py-2 ${
                row.id === framing.frame ? "border-ochre" : "border-rule hover:border-soft"
              }`}
            >
              <span className="flex h-11 w-11 items-center justify-center">
                <Outline width={row.frame.width} height={row.frame.height} />
              </span>
              <span>
                <span className="block font-semibold">{row.frame.name}</span>
                <span className="num text-soft">
                  {row.shape} {row.frame.width}×{row.frame.height}
                </span>
              </span>
            </Link>
          </li>
        ))}
      </ul>
      <AddFrame projectId={board.id}>
        <Button className="justify-self-start">Add frame</Button>
      </AddFrame>
      {current && <ActivePicture row={current} measure={measure} />}
      <p className="text-soft">The file is written at exactly this size and at the clip's own rate.</p>
    </section>
  );
}

const ASPECTS = [
  ["", "the whole frame"],
  ["2.39", "2.39, scope"],
  ["2.35", "2.35"],
  ["2", "2:1"],
  ["1.85", "1.85"],
  ["1.66", "1.66"],
  ["14/9", "14:9"],
  ["4/3", "4:3"],
  ["1", "1:1"],
] as const;

/** The active picture inside the frame, into which every clip is placed; outside it are bars. */
function ActivePicture({ row, measure }: { row: FrameRow; measure: Measure }) {
  const { active, bar_colour } = row.frame;
  const client = useQueryClient();
  const set = useMutation({
    mutationFn: (body: { active: string | null; bar_colour: string }) =>
      answered(api.PATCH("/api/frames/{frame_id}/active", { params: { path: { frame_id: row.id } }, body })),
    onSettled: () => refreshFramings(client),
  });
  const listed = ASPECTS.some(([aspect]) => aspect === (active ?? ""));
  const exact = (side: "width" | "height") => shown(measure.active[side]);
  const drawn = (side: "width" | "height") => shown(measure.drawn[side]);
  return (
    <div className="grid gap-2 border-t border-rule pt-3">
      <h3 className="font-semibold">Active picture</h3>
      <select
        aria-label="Active picture"
        className="rounded border border-rule bg-sheet px-2 py-1.5"
        value={listed ? (active ?? "") : "own"}
        onChange={({ target }) => set.mutate({ active: target.value || null, bar_colour })}
      >
        {ASPECTS.map(([aspect, title]) => (
          <option key={aspect} value={aspect}>
            {title}
          </option>
        ))}
        {!listed && <option value="own">{shown(active ?? "1", 4)}</option>}
      </select>
      <div className="grid grid-cols-[84px_1fr] items-center gap-2.5">
        <span>Own aspect</span>
        <NumberField
          label="Aspect of the active picture"
          {...{ unit: ": 1", low: 0.1, high: 10, step: 0.01, decimals: 4 }}
          value={toNumber(active ?? "0")}
          onCommit={(value) => set.mutate({ active: String(value), bar_colour })}
        />
      </div>
      {active && (
        <>
          <p className="num text-soft">
            {exact("width")} × {exact("height")}, drawn as {drawn("width")} × {drawn("height")}
          </p>
          <ColourRow
            label="Bars"
            value={bar_colour}
            initial="#000000"
            onChange={() => undefined}
            onCommit={(colour) => set.mutate({ active, bar_colour: colour })}
          />
        </>
      )}
      <ProblemNote error={set.error} />
    </div>
  );
}
