import { expect, test } from "vitest";
import { rangeOf, readIds, toggled, walked, written } from "./selection";

const grid = [
  [1, 2, 3],
  [4, 5, 6],
  [7, 8, 9],
];

test("a range is the rectangle between two cells, in any order", () => {
  expect(rangeOf(grid, 1, 5)).toEqual([1, 2, 4, 5]);
  expect(rangeOf(grid, 6, 2)).toEqual([2, 3, 5, 6]);
  expect(rangeOf(grid, 99, 5)).toEqual([5]);
});

test("all of some cells are added, or taken away where all are there", () => {
  expect([...toggled(new Set([1]), [1, 2])].sort()).toEqual([1, 2]);
  expect([...toggled(new Set([1, 2, 3]), [1, 2])]).toEqual([3]);
});

test("walking stays inside the board", () => {
  expect(walked(grid, 5, "ArrowRight")).toBe(6);
  expect(walked(grid, 6, "ArrowRight")).toBe(6);
  expect(walked(grid, 5, "ArrowUp")).toBe(2);
  expect(walked(grid, 7, "ArrowDown")).toBe(7);
  expect(walked(grid, 5, "x")).toBeNull();
});

test("a selection is written shortly and read back", () => {
  expect(written(new Set([7, 3, 4, 5, 12]))).toBe("3-5.7.12");
  expect([...readIds("3-5.7.12")]).toEqual([3, 4, 5, 7, 12]);
  expect(written([])).toBe("");
  for (const empty of ["", "x", "-", "5-", "1e9-"]) expect([...readIds(empty)].length).toBeLessThan(2);
  expect(readIds("1-99999999").size).toBe(20_000);
});
