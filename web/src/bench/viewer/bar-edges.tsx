import { useState } from "react";
import type { Edges } from "../../api/client";
import { toExact } from "../../ui/exact";
import { type At, useDragging } from "../../ui/use-dragging";
import { type Box, toScreen, type View } from "./view";

type Side = keyof Edges;
type Props = { view: View; stored: Box; picture: Box; onBars: (edges: Edges) => void };

const SIDES: Side[] = ["left", "right", "top", "bottom"];
const REACH = 9;

/** The four edges of the picture inside the stored raster, to be dragged to where the bars end. */
export function BarEdges({ view, stored, picture, onBars }: Props) {
  const [held, setHeld] = useState<{ side: Side; width: number } | null>(null);
  const widths: Record<Side, number> = {
    left: picture.x,
    right: stored.width - picture.x - picture.width,
    top: picture.y,
    bottom: stored.height - picture.y - picture.height,
  };
  if (held) widths[held.side] = held.width;
  const drag = useDragging<{ side: Side; width: number }, Side>({
    begin: (_, __, side) => ({ side, width: widths[side] }),
    move: (grab, at, event) => {
      grab.width = widthAt({ view, stored }, grab.side, at, event.target);
      setHeld({ ...grab });
    },
    end: ({ side, width }) => {
      const now = { ...widths, [side]: width };
      onBars(Object.fromEntries(SIDES.map((one) => [one, toExact(now[one], 2)])) as unknown as Edges);
      setHeld(null);
    },
    cancel: () => setHeld(null),
  });

  const shown = toScreen(view, {
    x: widths.left,
    y: widths.top,
    width: stored.width - widths.left - widths.right,
    height: stored.height - widths.top - widths.bottom,
  });
  const ends = endsOf(shown);
  return (
    <>
      <rect {...shown} fill="none" stroke="currentColor" strokeWidth="1.5" />
      {SIDES.map((side) => (
        <line
          key={side}
          data-testid={`edge ${side}`}
          {...ends[side]}
          stroke="transparent"
          strokeWidth={2 * REACH}
          className={side === "left" || side === "right" ? "cursor-ew-resize" : "cursor-ns-resize"}
          {...drag(side)}
        />
      ))}
    </>
  );
}

type Line = { x1: number; y1: number; x2: number; y2: number };

/** The four edges of a box. */
function endsOf({ x, y, width, height }: Box): Record<Side, Line> {
  const [right, bottom] = [x + width, y + height];
  return {
    left: { x1: x, y1: y, x2: x, y2: bottom },
    right: { x1: right, y1: y, x2: right, y2: bottom },
    top: { x1: x, y1: y, x2: right, y2: y },
    bottom: { x1: x, y1: bottom, x2: right, y2: bottom },
  };
}

/** The width of the bar on a side that ends at the pointer, in stored pixels. */
function widthAt(
  { view, stored }: Pick<Props, "view" | "stored">,
  side: Side,
  at: At,
  target: EventTarget | null,
): number {
  const box = (target as SVGElement).ownerSVGElement?.getBoundingClientRect();
  const x = (at.x - (box?.left ?? 0) - view.left) / view.across;
  const y = (at.y - (box?.top ?? 0) - view.top) / view.down;
  const wanted = { left: x, right: stored.width - x, top: y, bottom: stored.height - y }[side];
  const most = (side === "left" || side === "right" ? stored.width : stored.height) * 0.48;
  return Math.round(Math.min(Math.max(0, wanted), most));
}
