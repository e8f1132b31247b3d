import { Button } from "../ui/button";

/** What was just done, with the way back. */
export function Note({ says, onUndo, onClose }: { says: string; onUndo?: () => void; onClose: () => void }) {
  return (
    <div role="status" className="mb-3 flex items-center gap-3 border-l-3 border-moss bg-sheet px-3 py-1.5">
      <p className="grow">{says}</p>
      {onUndo && <Button onClick={onUndo}>Undo</Button>}
      <Button look="quiet" onClick={onClose}>
        Close
      </Button>
    </div>
  );
}
