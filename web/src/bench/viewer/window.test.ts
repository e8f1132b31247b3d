import { expect, test } from "vitest";
import { cornersOf, moved, resized } from "./window";

const window = { x: "960", y: "540", width: "400", height: "200", angle: "0" };

const told = {
  window,
  window_corners: [
    { x: 760, y: 440 },
    { x: 1160, y: 440 },
    { x: 1160, y: 640 },
    { x: 760, y: 640 },
  ],
};

test("the corners of a window are those given, counted from the raster", () => {
  const [first, , third] = cornersOf(told, window, { x: 10, y: 0 });
  expect(first).toEqual({ x: 770, y: 440 });
  expect(third).toEqual({ x: 1170, y: 640 });
});

test("they go along while the window is moved and sized", () => {
  const held = resized(moved(window, 5, -10), 0.5);
  const [first, , third] = cornersOf(told, held, { x: 0, y: 0 });
  expect(first).toEqual({ x: 965 - 100, y: 530 - 50 });
  expect(third).toEqual({ x: 965 + 100, y: 530 + 50 });
});

test("a window is moved, and sized from its middle in its own shape", () => {
  expect(moved(window, 5, -2.5)).toMatchObject({ x: "965", y: "537.5", width: "400" });
  expect(resized(window, 1.5)).toMatchObject({ x: "960", width: "600", height: "300" });
});
