import type { Window } from "../../api/client";
import { toExact, toNumber } from "../../api/exact";
import type { Point } from "./view";

/** The corners of a window on the source, in pixels of the raster. `origin` is the picture's corner on the raster. */
export function windowCorners(window: Window, origin: Point, pixelAspect: number): Point[] {
  const angle = (toNumber(window.angle) * Math.PI) / 180;
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const half = { x: (toNumber(window.width) / 2) * pixelAspect, y: toNumber(window.height) / 2 };
  const middle = { x: origin.x + toNumber(window.x), y: origin.y + toNumber(window.y) };
  return [
    [-1, -1],
    [1, -1],
    [1, 1],
    [-1, 1],
  ].map(([across = 0, down = 0]) => {
    const [x, y] = [across * half.x, down * half.y];
    return { x: middle.x + (x * cos - y * sin) / pixelAspect, y: middle.y + x * sin + y * cos };
  });
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
