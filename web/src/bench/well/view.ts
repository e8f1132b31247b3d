import type { Frame, Measure } from "../../api/client";
import { toNumber } from "../../api/exact";

/** A length on the screen, never to be mixed up with one in frame pixels. */
export type ScreenPx = number & { readonly __space: "screen" };

export const screenPx = (value: number) => value as ScreenPx;

export type ScreenBox = { x: ScreenPx; y: ScreenPx; width: ScreenPx; height: ScreenPx };

/** How frame pixels lie on the screen: where the frame's corner is, and screen pixels for one frame pixel. */
export type View = { left: number; top: number; across: number; down: number };

/** Room around the frame for dimension lines and words. */
export const MARGINS = { left: 78, right: 44, top: 52, bottom: 104 };

/** The part of a frame that is drawn on. */
export type Box = { x: number; y: number; width: number; height: number };

export function boxOf({ x, y, width, height }: Measure["box"]): Box {
  return { x: toNumber(x), y: toNumber(y), width: toNumber(width), height: toNumber(height) };
}

/** The smallest box around two. */
function around(one: Box, other: Box): Box {
  const x = Math.min(one.x, other.x);
  const y = Math.min(one.y, other.y);
  const right = Math.max(one.x + one.width, other.x + other.width);
  const bottom = Math.max(one.y + one.height, other.y + other.height);
  return { x, y, width: right - x, height: bottom - y };
}

/** Fit the frame into the well; or, to show what lies outside it, the frame and the whole picture. */
export function fitView(well: { width: number; height: number }, frame: Frame, picture: Box | null): View {
  const whole = { x: 0, y: 0, width: frame.width, height: frame.height };
  const shown = picture ? around(whole, picture) : whole;
  const pixel = toNumber(frame.pixel_aspect);
  const room = {
    width: Math.max(40, well.width - MARGINS.left - MARGINS.right),
    height: Math.max(40, well.height - MARGINS.top - MARGINS.bottom),
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

export function toScreen(view: View, box: Box): ScreenBox {
  return {
    x: screenPx(view.left + box.x * view.across),
    y: screenPx(view.top + box.y * view.down),
    width: screenPx(box.width * view.across),
    height: screenPx(box.height * view.down),
  };
}

/** The parts of a picture that lie outside the active picture, as boxes that do not overlap. */
export function lostParts(picture: Box, active: Box): Box[] {
  const right = picture.x + picture.width;
  const bottom = picture.y + picture.height;
  const activeRight = active.x + active.width;
  const activeBottom = active.y + active.height;
  const top = Math.min(Math.max(picture.y, active.y), bottom);
  const low = Math.max(Math.min(bottom, activeBottom), top);
  const { width } = picture;
  const parts = [
    { x: picture.x, y: picture.y, width, height: Math.min(bottom, active.y) - picture.y },
    { x: picture.x, y: Math.max(picture.y, activeBottom), width, height: bottom - activeBottom },
    { x: picture.x, y: top, width: Math.min(right, active.x) - picture.x, height: low - top },
    { x: Math.max(picture.x, activeRight), y: top, width: right - activeRight, height: low - top },
  ];
  return parts
    .map((part) => ({
      ...part,
      width: Math.min(part.width, width),
      height: Math.min(part.height, picture.height),
    }))
    .filter((part) => part.width > 0 && part.height > 0);
}
