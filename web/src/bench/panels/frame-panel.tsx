import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { FrameRow } from "../../api/client";
import { catalogueQuery } from "../../api/queries";
import { useChoices } from "../../api/use-choices";
import { AddFrame } from "../../frames/add-frame";
import { SettingRows } from "../../frames/setting-rows";
import { useFrame } from "../../frames/use-frame";
import { Button } from "../../ui/button";
import { shown, toExact, toNumber } from "../../ui/exact";
import { Fold } from "../../ui/fold";
import { NumberField } from "../../ui/number-field";
import { Outline } from "../../ui/outline";
import { ProblemNote } from "../../ui/problem-note";
import { Row } from "../../ui/row";
import { useBench } from "../state/use-bench";
import { ActivePicture } from "./frame/active-picture";
import { FittingLine } from "./frame/fitting-line";
import { GuidesPart } from "./frame/guides-part";
import { useSharedChange } from "./frame/shared-change";

/** The frames of the project; choosing one opens this clip in it. */
export function FramePanel() {
  const { board, framing } = useBench("board", "framing");
  const current = board.frames.find((row) => row.id === framing.frame);
  const into = (frameId: number) =>
    board.cells.find((other) => other.footage === framing.footage && other.frame === frameId);
  return (
    <section aria-label="Frame" className="grid gap-3">
      <h2 className="font-semibold">Frame</h2>
      <ul className="grid gap-2">
        {board.frames.map((row) => (
          <li key={row.id}>
            <Link
              to={`/projects/${board.id}/framings/${into(row.id)?.id ?? framing.id}?step=frame`}
              aria-current={row.id === framing.frame ? "true" : undefined}
              className={`flex items-center gap-3 rounded border-2 bg-sheet px-3 py-1.5 ${
                row.id === framing.frame ? "border-ochre" : "border-rule hover:border-soft"
              }`}
            >
              <span className="flex h-9 w-11 items-center justify-center">
                <Outline frame={row.frame} size={36} />
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
      {current && <Parts key={current.id} row={current} />}
    </section>
  );
}

function Parts({ row }: { row: FrameRow }) {
  const { board, measure } = useBench("board", "measure");
  const { set, ask, write, error } = useFrame(row);
  const shared = useSharedChange({ row, clips: board.clips, set });
  const { rate } = row.frame;
  const { longest } = row.delivery;
  const choices = useChoices();
  const { data: catalogue } = useQuery(catalogueQuery);
  return (
    <>
      <ProblemNote error={error} />
      <label className="grid grid-cols-[84px_1fr] items-center gap-2.5">
        Name
        <input
          key={row.frame.name}
          aria-label="Name of this frame"
          className="w-full rounded border border-edge bg-sheet px-2 py-1"
          defaultValue={row.frame.name}
          maxLength={80}
          onBlur={({ target }) =>
            target.value.trim() !== row.frame.name && set({ name: target.value.trim() })
          }
          onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
        />
      </label>
      <ActivePicture row={row} set={shared.change} />
      {shared.note}
      <GuidesPart row={row} ask={ask} />
      <Fold title="Time" state={rate ? `${shown(rate, 3)} fps` : "as the clip"}>
        <SettingRows settings={choices.frame_time} values={row.frame} set={set} />
        {rate && catalogue && (
          <SettingRows settings={[catalogue.fitting]} values={row.settings} set={write} />
        )}
        <FittingLine row={row} />
        <Row label="At most">
          <NumberField
            label="Longest clip, seconds; 0 for any"
            {...{ unit: "s", low: 0, high: 86400, step: 5 }}
            value={longest ? toNumber(longest) : 0}
            onCommit={(value) => ask({ longest: value > 0 ? toExact(value) : null })}
          />
        </Row>
        <p className="text-soft">Longer clips are flagged, not cut. 0 is as long as they like.</p>
      </Fold>
      <Fold title="Colour" state={measure.summary.frame_colour}>
        <SettingRows settings={choices.frame_colour} values={row.frame} set={set} />
        <p>Files will be {measure.summary.frame_colour}.</p>
        <p className="text-soft">
          {measure.summary.colour
            ? `This clip: ${measure.summary.colour}.`
            : "This clip's colours are delivered as they are."}
        </p>
      </Fold>
    </>
  );
}
