import { expect, test } from "vitest";
import type { Frame } from "../../api/client";
import { boxAround, boxPath, fitView, fullView, MARGINS, toScreen } from "./view";

const frame = { width: 1920, height: 1080, pixel_aspect: "1" } as Frame;

test("the frame fits into the viewer with room for its dimensions", () => {
  const view = fitView({ width: 840, height: 640 }, frame, null);
  const box = toScreen(view, { x: 0, y: 0, width: 1920, height: 1080 });
  expect(box.x).toBeCloseTo(MARGINS.left);
  expect(box.x + box.width).toBeCloseTo(840 - MARGINS.right);
  expect(box.width / box.height).toBeCloseTo(16 / 9);
});

test("showing the cropped parts makes room for the whole picture", () => {
  const picture = [
    { x: 0, y: -1166 },
    { x: 1920, y: -1166 },
    { x: 1920, y: 2247 },
    { x: 0, y: 2247 },
  ];
  const view = fitView({ width: 840, height: 640 }, frame, picture);
  const box = toScreen(view, boxAround(picture));
  expect(box.y).toBeGreaterThanOrEqual(MARGINS.top - 0.001);
  expect(box.y + box.height).toBeLessThanOrEqual(640 - MARGINS.bottom + 0.001);
});

test("pixels that are not square are drawn in their shape", () => {
  const tape = { width: 720, height: 576, pixel_aspect: "12/11" } as Frame;
  const view = fitView({ width: 840, height: 640 }, tape, null);
  expect(view.across / view.down).toBeCloseTo(12 / 11);
});

test("a box as a path", () => {
  expect(boxPath({ x: 1, y: 2, width: 3, height: 4 })).toBe("M1 2L4 2L4 6L1 6Z");
});

test("pixel for pixel one line of the frame lies on one dot, the place looked at in the middle", () => {
  const squeezed = { width: 720, height: 576, pixel_aspect: "16/11" } as Frame;
  const view = fullView({ width: 400, height: 300 }, squeezed, { x: 0.25, y: 0.5 }, 2);
  const box = toScreen(view, { x: 0, y: 0, width: 720, height: 576 });
  expect(box.height).toBeCloseTo(288);
  expect(box.width).toBeCloseTo((720 * 16) / 11 / 2);
  expect(box.x + box.width / 4).toBeCloseTo(200);
  expect(box.y + box.height / 2).toBeCloseTo(150);
});
