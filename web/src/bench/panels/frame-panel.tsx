import { Link } from "react-router";
import type { Board, Framing } from "../../api/client";
import { AddFrame, Outline } from "../../board/add-frame";
import { Button } from "../../ui/button";

/** The frames of the project; choosing one opens this clip in it. */
export function FramePanel({ board, framing }: { board: Board; framing: Framing }) {
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
      <p className="text-soft">The file is written at exactly this size and at the clip's own rate.</p>
    </section>
  );
}
