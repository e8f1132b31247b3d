import { expect, it } from "vitest";
import { ofShotAt, type PathPoint, pointAt } from "./use-path";

const point = (time: number, shot: number, x: number) =>
  ({ time, shot, x, y: 0, corners: [{ x, y: 0 }], reach: null, tightness: 0, angle: 0 }) as PathPoint;
const PATH = [point(0, 0, 10), point(1, 0, 20), point(2, 1, 100), point(3, 1, 200)];

it("is on the line between two points of one shot", () => {
  expect(pointAt(PATH, 0.5)).toMatchObject({ x: 15, corners: [{ x: 15, y: 0 }] });
  expect(pointAt(PATH, 2.25)?.x).toBe(125);
});

it("stands before the first, after the last, and up to a cut", () => {
  expect([-1, 1.5, 9].map((time) => pointAt(PATH, time)?.x)).toEqual([10, 20, 200]);
  expect(pointAt([], 1)).toBeNull();
});

it("has the points of a shot", () => {
  expect(ofShotAt(PATH, 1.9).map(({ time }) => time)).toEqual([0, 1]);
});
