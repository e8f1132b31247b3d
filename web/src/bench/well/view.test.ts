import { expect, test } from "vitest";
import { fitView, lostParts, MARGINS, toScreen } from "./view";

const active = { x: 0, y: 0, width: 1920, height: 1080 };
const frame = { width: 1920, height: 1080, pixel_aspect: "1", name: "", bar_colour: "#000000" };

test("the frame fits into the well with room for its dimensions", () => {
  const view = fitView({ width: 840, height: 640 }, frame, null);
  const box = toScreen(view, { x: 0, y: 0, width: 1920, height: 1080 });
  expect(box.x).toBeCloseTo(MARGINS.left);
  expect(box.x + box.width).toBeCloseTo(840 - MARGINS.right);
  expect(box.width / box.height).toBeCloseTo(16 / 9);
});

test("showing what is outside makes room for the whole picture", () => {
  const picture = { x: 0, y: -1166, width: 1920, height: 3413 };
  const view = fitView({ width: 840, height: 640 }, frame, picture);
  const box = toScreen(view, picture);
  expect(box.y).toBeGreaterThanOrEqual(MARGINS.top - 0.001);
  expect(box.y + box.height).toBeLessThanOrEqual(640 - MARGINS.bottom + 0.001);
});

test("pixels that are not square are drawn in their shape", () => {
  const tape = { width: 720, height: 576, pixel_aspect: "12/11", name: "", bar_colour: "#000000" };
  const view = fitView({ width: 840, height: 640 }, tape, null);
  expect(view.across / view.down).toBeCloseTo(12 / 11);
});

test("what is lost is what lies outside, counted once", () => {
  const area = (parts: { width: number; height: number }[]) =>
    parts.reduce((sum, part) => sum + part.width * part.height, 0);
  expect(lostParts({ x: 656, y: 0, width: 608, height: 1080 }, active)).toEqual([]);
  expect(area(lostParts({ x: -100, y: -50, width: 2120, height: 1180 }, active))).toBe(
    2120 * 1180 - 1920 * 1080,
  );
  expect(area(lostParts({ x: 3000, y: 0, width: 500, height: 1080 }, active))).toBe(500 * 1080);
  expect(area(lostParts({ x: 0, y: -2000, width: 1920, height: 1080 }, active))).toBe(1920 * 1080);
});
