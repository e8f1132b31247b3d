import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { answered, api, type Board, type Footage, type FrameRow, type Framing } from "../api/client";
import { shown, toNumber } from "../api/exact";
import { Hint } from "../ui/hint";
import { ProblemNote } from "../ui/problem-note";

const THUMBNAIL_HEIGHT = 72;
const WIDEST_THUMBNAIL = 132;

/** Clips down, frames across; every cell the rendered framing with what it keeps. */
export function BoardTable({ board }: { board: Board }) {
  const client = useQueryClient();
  const remove = useMutation({
    mutationFn: (footageId: number) =>
      answered(api.DELETE("/api/footage/{footage_id}", { params: { path: { footage_id: footageId } } })),
    onSettled: () => client.invalidateQueries({ queryKey: ["board", board.id] }),
  });
  const cell = (footage: Footage, frame: FrameRow) =>
    board.framings.find((framing) => framing.footage === footage.id && framing.frame === frame.id);

  return (
    <>
      <ProblemNote error={remove.error} />
      <table className="w-full border-collapse">
        <thead>
          <tr className="border-b border-rule text-left align-bottom">
            <th className="px-3 py-2 font-normal text-soft">footage ↓&ensp;frame →</th>
            {board.frames.map((frame) => (
              <th key={frame.id} className="px-3 py-2">
                <span className="block">{frame.frame.name}</span>
                <span className="num block font-normal text-soft">
                  {frame.shape} {frame.frame.width}×{frame.frame.height}
                  {frame.frame.active && `, ${shown(frame.frame.active)} inside`}
                </span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {board.footage.map((footage) => (
            <tr key={footage.id} className="group border-b border-rule">
              <ClipHeading footage={footage} onRemove={() => remove.mutate(footage.id)} />
              {board.frames.map((frame) => (
                <td key={frame.id} className="px-1 py-1 align-middle">
                  <Cell projectId={board.id} framing={cell(footage, frame)} frame={frame} />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

function ClipHeading({ footage, onRemove }: { footage: Footage; onRemove: () => void }) {
  return (
    <th scope="row" className="px-3 py-2 text-left font-normal">
      <div className="flex items-center gap-3">
        <span className="flex h-[72px] w-[96px] shrink-0 items-center justify-center">
          <img
            alt=""
            loading="lazy"
            className="max-h-full max-w-full"
            src={`/api/footage/${footage.id}/picture?width=160&time=${shown(toNumber(footage.facts.duration) / 2)}&reading=${encodeURIComponent(JSON.stringify(footage.interpretation))}`}
          />
        </span>
        <span className="min-w-0">
          <span className="block font-semibold">{footage.name.replace(/\.[^.]+$/, "")}</span>
          <span className="num block text-soft">{footage.words}</span>
          {footage.missing && <span className="block text-rust">The file is missing</span>}
          <Hint says="Takes the clip, its file and all that was made from it out of the project">
            <button
              type="button"
              className="text-soft underline opacity-0 group-hover:opacity-100 focus-visible:opacity-100"
              onClick={onRemove}
            >
              Remove
            </button>
          </Hint>
        </span>
      </div>
    </th>
  );
}

function Cell({ projectId, framing, frame }: { projectId: number; framing?: Framing; frame: FrameRow }) {
  if (!framing) return null;
  const { words, cost } = framing.measure;
  const aspect = frame.frame.width / frame.frame.height;
  const width = Math.min(WIDEST_THUMBNAIL, THUMBNAIL_HEIGHT * aspect);
  return (
    <Link
      to={`/projects/${projectId}/framings/${framing.id}`}
      className="flex items-center gap-3 rounded px-2 py-2 hover:bg-sheet"
    >
      <img
        alt={`${words.placement} in ${frame.frame.name}`}
        loading="lazy"
        className="shrink-0 bg-well"
        style={{ width, height: width / aspect }}
        src={`/api/framings/${framing.id}/thumbnail?width=280&version=${framing.version}&reading=${encodeURIComponent(JSON.stringify([framing.plan.interpretation, framing.plan.frame]))}`}
      />
      <span className="min-w-0">
        <span className="block font-semibold first-letter:uppercase">{words.placement}</span>
        <span className="block text-soft first-letter:uppercase">{words.surround}</span>
        <span className={`num block ${words.loses ? "text-rust" : "text-soft"}`}>
          kept {shown(cost.kept_percent, 1)} %
        </span>
      </span>
    </Link>
  );
}
