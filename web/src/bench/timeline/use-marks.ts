import type { KeyboardEvent } from "react";
import { arrowOf } from "../../ui/arrows";
import { useDragging } from "../../ui/use-dragging";
import { useBench } from "../state/use-bench";

type Held = { index: number; box: DOMRect; frame: number; copy: boolean };
type Marks = {
  /** Where each mark is, in frames, and the last frame that one can be at. */
  frames: number[];
  last: number;
  /** Lets a mark, or with Alt a copy of it, be at another frame. */
  move: (index: number, frame: number, copy: boolean) => void;
  remove: (index: number) => void;
};

/** Marks of a lane, moved by dragging and arrow keys and removed by Delete; the viewer follows. */
export function useMarks({ frames, last, move, remove }: Marks) {
  const { transport } = useBench("transport");
  const within = (frame: number) => Math.min(last, Math.max(0, frame));

  const drag = useDragging<Held, number>({
    begin: (_, event, index) => {
      const box = (event.target as HTMLElement).closest("[data-lane]")?.getBoundingClientRect();
      return box ? { index, box, frame: frames[index] ?? 0, copy: (event as PointerEvent).altKey } : null;
    },
    move: (held, { x }) => {
      held.frame = within(Math.round(((x - held.box.left) / held.box.width) * last));
      transport.go(held.frame);
    },
    end: ({ index, frame, copy }) => move(index, frame, copy),
    cancel: () => undefined,
  });

  function onKeyDown(event: KeyboardEvent, index: number) {
    if (event.key === "Delete" || event.key === "Backspace") {
      event.preventDefault();
      remove(index);
    }
    const way = arrowOf(event);
    if (!way?.[0]) return;
    event.preventDefault();
    event.stopPropagation();
    const frame = within((frames[index] ?? 0) + way[0]);
    move(index, frame, event.altKey);
    transport.go(frame);
  }

  return (index: number) => ({
    onKeyDown: (event: KeyboardEvent) => onKeyDown(event, index),
    ...drag(index),
  });
}
