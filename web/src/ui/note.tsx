import { Button } from "./button";

/** The last action, with a button to undo it. */
export function Note({ text, onUndo, onClose }: { text: string; onUndo?: () => void; onClose: () => void }) {
  return (
    <div
      role="status"
      data-testid="done"
      className="fixed bottom-16 left-1/2 z-30 flex -translate-x-1/2 items-center gap-3 rounded border border-rule border-l-3 border-l-moss bg-sheet px-3 py-1.5 shadow-lg"
    >
      <p className="grow">{text}</p>
      {onUndo && <Button onClick={onUndo}>Undo</Button>}
      <Button look="quiet" onClick={onClose}>
        Close
      </Button>
    </div>
  );
}
