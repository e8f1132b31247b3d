import type { Measure, Window } from "../../api/client";
import { toExact, toNumber } from "../../ui/exact";
import type { Point } from "./view";

/** The corners of a window on the source while the hand moves or sizes it: those the server told, taken along. */
export function cornersOf(
  { window, window_corners }: Pick<Measure, "window" | "window_corners">,
  held: Window,
  origin: Point,
): Point[] {
  const times = toNumber(held.height) / toNumber(window.height);
  return window_corners.map(({ x, y }) => ({
    x: origin.x + toNumber(held.x) + (x - toNumber(window.x)) * times,
    y: origin.y + toNumber(held.y) + (y - toNumber(window.y)) * times,
  }));
}

export function moved(window: Window, across: number, down: number): Window {
  return {
    ...window,
    x: toExact(toNumber(window.x) + across, 3),
    y: toExact(toNumber(window.y) + down, 3),
  };
}

/** A window larger or smaller about its middle; its shape is the frame's and stays. */
export function resized(window: Window, times: number): Window {
  return {
    ...window,
    width: toExact(toNumber(window.width) * times, 3),
    height: toExact(toNumber(window.height) * times, 3),
  };
}
