import { Link } from "react-router";
import { shown } from "../ui/exact";
import { Note } from "../ui/note";
import { stemOf } from "../ui/stem";
import type { Frames } from "./use-frames";

/** The last change of a frame, and the clips that keep less since. */
export function FrameNote({ projectId, frames }: { projectId: number; frames: Frames }) {
  const { done, forget } = frames;
  if (!done) return null;
  const { text, undo, losses } = done;
  return (
    <>
      <Note text={text} onUndo={undo} onClose={forget} />
      {losses.length > 0 && (
        <section aria-label="Kept less" className="mb-4 max-w-2xl border-l-3 border-rust bg-sheet px-5 py-3">
          <p className="font-semibold">
            {losses.length === 1 ? "One clip keeps" : `${losses.length} clips keep`} less of the picture than
            before:
          </p>
          <ul className="mt-1 max-h-40 overflow-y-auto">
            {losses.map(({ framing, clip, before, after }) => (
              <li key={framing}>
                <Link
                  className="text-ochre underline"
                  to={`/projects/${projectId}/framings/${framing}?step=placement`}
                >
                  {stemOf(clip)}
                </Link>{" "}
                <span className="num">
                  {shown(before, 1)}% → {shown(after, 1)}%
                </span>
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}
