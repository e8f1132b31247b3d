import { Button } from "../ui/button";
import { useKeys } from "../ui/keyboard";
import type { Way } from "./history";

type Props = {
  /** The change of each; null if there is none. */
  undo: string | null;
  redo: string | null;
  onWalk: (way: Way) => void;
};

/** Undo and Redo as buttons that name their change, and as shortcuts. */
export function HistoryButtons({ undo, redo, onWalk }: Props) {
  useKeys([
    { keys: "$mod+z", does: "Undo", act: () => onWalk("undo") },
    { keys: "$mod+Shift+z", does: "Redo", act: () => onWalk("redo") },
    { keys: "$mod+y", does: "Redo, too", act: () => onWalk("redo") },
  ]);
  return (
    <>
      <Button
        look="quiet"
        disabled={!undo}
        title={undo ? `Undo: ${undo}` : undefined}
        onClick={() => onWalk("undo")}
      >
        Undo
      </Button>
      <Button
        look="quiet"
        disabled={!redo}
        title={redo ? `Redo: ${redo}` : undefined}
        onClick={() => onWalk("redo")}
      >
        Redo
      </Button>
    </>
  );
}
