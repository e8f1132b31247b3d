import { expect, test } from "vitest";
import { inClip, inFile } from "./use-film";

const place = { first: 10, last: 59, rate: "25", seconds: 2 };

test("a picture of the clip is found in the file and the other way", () => {
  for (let frame = 10; frame < 60; frame++) expect(inClip(place, inFile(place, frame))).toBe(frame);
});

test("what lies outside the range is its end", () => {
  expect(inFile(place, 0)).toBe(0);
  expect(inFile(place, 90)).toBe(2);
  expect(inClip(place, 2)).toBe(59);
});

test("a file at another speed has another length", () => {
  expect(inFile({ ...place, seconds: 4 }, 34)).toBeCloseTo(1.96);
});
