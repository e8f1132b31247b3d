import { type KeyboardEvent, useEffect, useState } from "react";
import { arrowOf } from "../../ui/arrows";
import { useDragging } from "../../ui/use-dragging";
import { useBench } from "../state/use-bench";
import { fullView, type Point, zoomed } from "./view";

const MIDDLE: Point = { x: 0.5, y: 0.5 };
const BY_KEY = 64;

const within = (part: number) => Math.min(1, Math.max(0, part));

/**
 * The frame at a zoom. A drag moves the visible part, not the picture in it; the wheel does too, and with Ctrl it zooms.
 * Null if the frame is fitted in.
 */
export function useZoomed(size: { width: number; height: number }) {
  const { zoom, shownPlan, show } = useBench("zoom", "shownPlan", "show");
  const { frame } = shownPlan;
  const on = zoom !== null;
  const [centre, setCentre] = useState(MIDDLE);
  const view = fullView(size, frame, centre, window.devicePixelRatio / (zoom ?? 1));
  useEffect(() => {
    if (!on) setCentre(MIDDLE);
  }, [on]);

  /** Look at a place so many screen pixels on. */
  const look = (from: Point, x: number, y: number) =>
    setCentre({
      x: within(from.x + x / (frame.width * view.across)),
      y: within(from.y + y / (frame.height * view.down)),
    });

  const drag = useDragging<{ x: number; y: number; from: Point }>({
    begin: ({ x, y }) => ({ x, y, from: centre }),
    move: (held, { x, y }) => look(held.from, held.x - x, held.y - y),
    end: () => undefined,
    cancel: ({ from }) => setCentre(from),
  });

  function onWheel(event: WheelEvent) {
    event.preventDefault();
    if (event.ctrlKey) show({ zoom: zoomed(zoom, event.deltaY < 0 ? 2 : 0.5) });
    else look(centre, event.deltaX, event.deltaY);
  }

  function onKeyDown(event: KeyboardEvent) {
    const way = arrowOf(event);
    if (!way) return;
    event.preventDefault();
    look(centre, Math.sign(way[0]) * BY_KEY, Math.sign(way[1]) * BY_KEY);
  }

  return on ? { view, drag, onWheel, onKeyDown } : null;
}
