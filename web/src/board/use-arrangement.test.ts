import { expect, test } from "vitest";
import { putBefore } from "./use-arrangement";

test("one is put before another, or last", () => {
  expect(putBefore([1, 2, 3, 4], 4, 2)).toEqual([1, 4, 2, 3]);
  expect(putBefore([1, 2, 3, 4], 1, 4)).toEqual([2, 3, 1, 4]);
  expect(putBefore([1, 2, 3, 4], 1, null)).toEqual([2, 3, 4, 1]);
  expect(putBefore([1, 2, 3], 2, 2)).toEqual([1, 2, 3]);
  expect(putBefore([1, 2, 3], 1, 9)).toEqual([2, 3, 1]);
});
