import { useState } from "react";
import { toExact } from "../../ui/exact";
import { useDragging } from "../../ui/use-dragging";
import { useEscape } from "../../ui/use-escape";
import type { ScreenBox } from "../viewer/view";

const LEAST = 6;

/** A box in parts of the upright stored picture. */
export type Drawn = { x: string; y: string; width: string; height: string };
type Props = { box: ScreenBox; onDrawn: (drawn: Drawn) => void; onLeave: () => void };
type Box = { x: number; y: number; width: number; height: number };
type Grab = { x: number; y: number; left: number; top: number; box: Box | null };

/** Draw a box round anything on the source, to follow its contents. */
export function DrawBox({ box, onDrawn, onLeave }: Props) {
  const [drawn, setDrawn] = useState<Box | null>(null);
  useEscape(() => {
    onLeave();
    return true;
  });
  const drag = useDragging<Grab, undefined>({
    begin: ({ x, y }, event) => {
      const place = (event.target as Element).getBoundingClientRect();
      return { x, y, left: place.left, top: place.top, box: null };
    },
    move: (grab, { x, y }) => {
      const [left, right] = [Math.min(grab.x, x), Math.max(grab.x, x)];
      const [top, bottom] = [Math.min(grab.y, y), Math.max(grab.y, y)];
      grab.box = { x: left - grab.left, y: top - grab.top, width: right - left, height: bottom - top };
      setDrawn(grab.box);
    },
    end: (grab) => {
      setDrawn(null);
      if (!grab.box || grab.box.width < LEAST || grab.box.height < LEAST) return;
      const { x, y, width, height } = grab.box;
      onDrawn({
        x: toExact((x + width / 2) / box.width, 5),
        y: toExact((y + height / 2) / box.height, 5),
        width: toExact(width / box.width, 5),
        height: toExact(height / box.height, 5),
      });
    },
    cancel: () => setDrawn(null),
  });
  return (
    <div
      data-testid="draw-box"
      className="absolute z-10 cursor-crosshair touch-none"
      style={{ left: box.x, top: box.y, width: box.width, height: box.height }}
      {...drag(undefined)}
    >
      {drawn && (
        <span
          className="pointer-events-none absolute border-2 border-chalk bg-chalk/10"
          style={{ left: drawn.x, top: drawn.y, width: drawn.width, height: drawn.height }}
        />
      )}
      <p className="-translate-x-1/2 pointer-events-none absolute top-3 left-1/2 whitespace-nowrap rounded bg-night px-2 py-1 text-chalk">
        Draw a box round the subject. Escape cancels.
      </p>
    </div>
  );
}
