import { expect, test } from "vitest";
import { nearest } from "./nearest";

const snaps = [{ offset: "10" }, { offset: "4" }, { offset: "1/2" }];

test("the nearest is met, not the first that is near", () => {
  expect(nearest(snaps, 5.5, 7)).toEqual({ offset: "4" });
  expect(nearest(snaps, 0, 7)).toEqual({ offset: "1/2" });
  expect(nearest(snaps, 7, 7)).toEqual({ offset: "10" });
});

test("nothing is met out of reach", () => {
  expect(nearest(snaps, 30, 7)).toBeNull();
});
