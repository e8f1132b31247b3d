import { expect, test } from "vitest";
import { moved, resized, windowCorners } from "./window";

const window = { x: "960", y: "540", width: "400", height: "200", angle: "0" };

test("the corners of a window, counted from the raster", () => {
  const corners = windowCorners(window, { x: 10, y: 0 }, 1);
  expect(corners[0]).toEqual({ x: 770, y: 440 });
  expect(corners[2]).toEqual({ x: 1170, y: 640 });
});

test("a turned window turns in true shape, whatever the pixels", () => {
  const [first, second] = windowCorners({ ...window, angle: "90" }, { x: 0, y: 0 }, 2);
  expect(first?.x).toBeCloseTo(960 + 100 / 2);
  expect((second?.y ?? 0) - (first?.y ?? 0)).toBeCloseTo(400 * 2);
});

test("a window is moved, and sized from its middle in its own shape", () => {
  expect(moved(window, 5, -2.5)).toMatchObject({ x: "965", y: "537.5", width: "400" });
  expect(resized(window, 1.5)).toMatchObject({ x: "960", width: "600", height: "300" });
});
