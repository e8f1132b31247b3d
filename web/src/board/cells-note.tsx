import type { CellChanges } from "../frames/use-cells";
import { Note } from "../ui/note";

/** More cells than this are not changed before a person has looked up: then progress is shown. */
const MANY = 40;

/** The progress of a change of many cells, and the last change with an Undo button. */
export function CellsNote({ cells: { doing, fraction, done, undo, forget } }: { cells: CellChanges }) {
  return (
    <>
      {doing > MANY && (
        <p
          role="status"
          className="fixed bottom-16 left-1/2 z-30 -translate-x-1/2 rounded border border-rule bg-sheet px-4 py-2 shadow-lg"
        >
          Changing {doing} cells …
          <progress className="ml-3 h-1 w-32 align-middle" value={fraction} max={1} />
        </p>
      )}
      {done && (
        <Note
          text={done.changed.length ? done.label : "Nothing changed: they were so already."}
          onUndo={done.changed.length ? undo : undefined}
          onClose={forget}
        />
      )}
    </>
  );
}
