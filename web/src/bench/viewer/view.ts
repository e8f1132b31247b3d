import type { Frame, Measure } from "../../api/client";
import { toNumber } from "../../ui/exact";

/** A length on the screen, never to be mixed up with one in frame pixels. */
export type ScreenPx = number & { readonly __space: "screen" };

export const screenPx = (value: number) => value as ScreenPx;

export type ScreenBox = { x: ScreenPx; y: ScreenPx; width: ScreenPx; height: ScreenPx };
export type ScreenPoint = { x: ScreenPx; y: ScreenPx };

/** How pixels map to the screen: the position of their corner, and screen pixels for each of them. */
export type View = { left: number; top: number; across: number; down: number };

/** Room around the frame for dimension lines and words. */
export const MARGINS = { left: 32, right: 24, top: 30, bottom: 76 };

/** The part of a frame or of a source that is drawn on. */
export type Box = { x: number; y: number; width: number; height: number };
export type Point = { x: number; y: number };
type Size = { width: number; height: number };

export function boxOf({ x, y, width, height }: Measure["box"]): Box {
  return { x: toNumber(x), y: toNumber(y), width: toNumber(width), height: toNumber(height) };
}

/** The smallest box around some points. */
export function boxAround(points: Point[]): Box {
  const across = points.map(({ x }) => x);
  const down = points.map(({ y }) => y);
  const [x, y] = [Math.min(...across), Math.min(...down)];
  return { x, y, width: Math.max(...across) - x, height: Math.max(...down) - y };
}

function cornersOf({ x, y, width, height }: Box): Point[] {
  return [
    { x, y },
    { x: x + width, y },
    { x: x + width, y: y + height },
    { x, y: y + height },
  ];
}

/** Fit the frame into the viewer; or, to show what lies outside it, the frame and the whole picture. */
export function fitView(viewer: Size, frame: Frame, picture: Point[] | null): View {
  const whole = { x: 0, y: 0, width: frame.width, height: frame.height };
  return fitBox(viewer, picture ? boxAround([...cornersOf(whole), ...picture]) : whole, frame.pixel_aspect);
}

/** The frame with one of its lines on one of the screen's dots, a place of it (in parts of it) in the middle. */
export function fullView(viewer: Size, frame: Frame, centre: Point, dots: number): View {
  const down = 1 / dots;
  const across = down * toNumber(frame.pixel_aspect);
  return {
    left: viewer.width / 2 - centre.x * frame.width * across,
    top: viewer.height / 2 - centre.y * frame.height * down,
    across,
    down,
  };
}

/** Screen pixels for a pixel of the frame, least and most. */
const ZOOMS = { least: 0.25, most: 8 };

/** A zoom of the viewer times a factor; from the fitted frame, which is null, it starts at 1. */
export const zoomed = (zoom: number | null, factor: number) =>
  Math.min(ZOOMS.most, Math.max(ZOOMS.least, (zoom ?? 1 / factor) * factor));

/** The view with one pixel of the frame on one of the screen; or, from there, with the frame fitted in. */
export const toggledFullSize = (zoom: number | null) => ({ onSource: false, zoom: zoom === 1 ? null : 1 });

/** Fit a box of pixels of some shape into the viewer. */
export function fitBox(viewer: Size, shown: Box, pixelAspect: string): View {
  const pixel = toNumber(pixelAspect);
  const room = {
    width: Math.max(40, viewer.width - MARGINS.left - MARGINS.right),
    height: Math.max(40, viewer.height - MARGINS.top - MARGINS.bottom),
  };
  const down = Math.min(room.width / (shown.width * pixel), room.height / shown.height);
  const across = down * pixel;
  return {
    left: MARGINS.left + (room.width - shown.width * across) / 2 - shown.x * across,
    top: MARGINS.top + (room.height - shown.height * down) / 2 - shown.y * down,
    across,
    down,
  };
}

export function pointOnScreen(view: View, { x, y }: Point): ScreenPoint {
  return { x: screenPx(view.left + x * view.across), y: screenPx(view.top + y * view.down) };
}

export function toScreen(view: View, box: Box): ScreenBox {
  return {
    ...pointOnScreen(view, box),
    width: screenPx(box.width * view.across),
    height: screenPx(box.height * view.down),
  };
}

/** The box of the whole frame. */
export const frameOnScreen = (view: View, { width, height }: Size) =>
  toScreen(view, { x: 0, y: 0, width, height });

/** Points as an SVG path, closed. */
export function pathOf(points: Point[]): string {
  return `M${points.map(({ x, y }) => `${x} ${y}`).join("L")}Z`;
}

/** A box as an SVG path, closed. */
export function boxPath(box: Box): string {
  return pathOf(cornersOf(box));
}
