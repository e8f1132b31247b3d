import { useDrag } from "@use-gesture/react";
import { useRef } from "react";
import { useEscape } from "./use-escape";

export type At = { x: number; y: number };
type Event = PointerEvent | MouseEvent | TouchEvent | KeyboardEvent;

type Drag<Held, Which> = {
  /** The start of a drag, at the pointer; null for none. */
  begin: (at: At, event: Event, which: Which) => Held | null;
  /** It is dragged to a place. */
  move: (held: Held, at: At, event: Event) => void;
  /** The end of a drag. */
  end: (held: Held) => void;
  /** It goes back to where the drag began: Escape was pressed, or the pointer was taken away. */
  cancel: (held: Held) => void;
};

/** Dragging by mouse, pen or finger. Escape takes it back. */
export function useDragging<Held, Which = void>(drag: Drag<Held, Which>) {
  const stop = useRef<(() => void) | null>(null);
  useEscape(() => {
    if (!stop.current) return false;
    stop.current();
    return true;
  });

  return useDrag(
    ({ first, last, canceled, xy: [x, y], event, args, memo, cancel }) => {
      if (first) {
        event.stopPropagation();
        const held = drag.begin({ x, y }, event, args?.[0] as Which);
        stop.current = held === null ? null : cancel;
        return { held, moved: false };
      }
      const { held, moved } = memo as { held: Held | null; moved: boolean };
      if (held === null) return memo;
      event.stopPropagation();
      if (last) {
        stop.current = null;
        if (canceled) drag.cancel(held);
        else if (moved) drag.end(held);
        return memo;
      }
      drag.move(held, { x, y }, event);
      return { held, moved: true };
    },
    { pointer: { keys: false, buttons: 1 }, eventOptions: { passive: false } },
  );
}
