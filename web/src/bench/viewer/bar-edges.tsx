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
  const shown = toScreen(view, {
    x: widths.left,
    y: widths.top,
    width: stored.width - widths.left - widths.right,
    height: stored.height - widths.top - widths.bottom,
  });
  const ends: Record<Side, { x1: number; y1: number; x2: number; y2: number }> = {
    left: { x1: shown.x, y1: shown.y, x2: shown.x, y2: shown.y + shown.height },
    right: { x1: shown.x + shown.width, y1: shown.y, x2: shown.x + shown.width, y2: shown.y + shown.height },
    top: { x1: shown.x, y1: shown.y, x2: shown.x + shown.width, y2: shown.y },
    bottom: {
      x1: shown.x,
      y1: shown.y + shown.height,
      x2: shown.x + shown.width,
      y2: shown.y + shown.height,
    },
  };

  function widthAt(side: Side, at: At, event: { target: EventTarget | null }): number {
    const box = (event.target as SVGElement).ownerSVGElement?.getBoundingClientRect();
    const x = (at.x - (box?.left ?? 0) - view.left) / view.across;
    const y = (at.y - (box?.top ?? 0) - view.top) / view.down;
    const wanted = { left: x, right: stored.width - x, top: y, bottom: stored.height - y }[side];
    const most = (side === "left" || side === "right" ? stored.width : stored.height) * 0.48;
    return Math.round(Math.min(Math.max(0, wanted), most));
  }

  const drag = useDragging<{ side: Side; width: number }, Side>({
    begin: (_, __, side) => ({ side, width: widths[side] }),
    move: (grab, at, event) => {
      grab.width = widthAt(grab.side, at, event);
      setHeld({ ...grab });
    },
    end: ({ side, width }) => {
      const now = { ...widths, [side]: width };
      onBars(Object.fromEntries(SIDES.map((one) => [one, toExact(now[one], 2)])) as unknown as Edges);
      setHeld(null);
    },
    cancel: () => setHeld(null),
  });

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
