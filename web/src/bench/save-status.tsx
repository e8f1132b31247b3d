import { Button } from "../ui/button";
import { useBench } from "./state/use-bench";

/** Changes that are not stored: they wait for the server, or conflict with a change made elsewhere. */
export function SaveStatus() {
  const { editor, edits } = useBench("editor", "edits");
  const { conflict, waiting } = edits;
  if (conflict) {
    return (
      <div role="alert" className="grid gap-2 border-l-3 border-rust bg-sheet px-3 py-2">
        <p>
          This framing was changed elsewhere meanwhile: <b>{conflict.changed.join(", ") || "something"}</b>.
          Here it was: <b>{conflict.mine.label}</b>.
        </p>
        <div className="flex gap-4">
          <Button look="link" onClick={() => editor.keepTheirs()}>
            Take theirs
          </Button>
          <Button look="link" onClick={() => editor.keepMine()}>
            Keep mine
          </Button>
        </div>
      </div>
    );
  }
  if (!waiting) return null;
  return (
    <p role="status" className="border-l-3 border-rust bg-sheet px-3 py-2">
      The server does not answer. What you do is kept here and sent once it is back; leave this page open.
    </p>
  );
}
