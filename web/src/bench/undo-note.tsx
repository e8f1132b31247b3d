import { useOutsideHistory } from "./editor/outside-history";

/** Says why Undo did nothing. */
export function UndoNote() {
  const told = useOutsideHistory((state) => state.told);
  if (!told) return null;
  return (
    <p role="status" className="border-l-3 border-ochre bg-sheet px-3 py-2">
      {told} is not in the history, so nothing was undone. Change it back where you made it; press Undo again
      to undo the step before it.
    </p>
  );
}
