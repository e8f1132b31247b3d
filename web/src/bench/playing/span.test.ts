import { expect, it } from "vitest";
import { clipTime, type Head } from "./span";

const HEAD = { start: 5, loop_start: 2, loop_length: 4, speed: 1 } as Head;

it("goes from its start to the end of the loop, and round", () => {
  const spans = [{ at: 0, head: HEAD }];
  expect([0, 0.5, 1, 2, 4.5, 5.5].map((watched) => clipTime(spans, watched))).toEqual([
    5, 5.5, 2, 3, 5.5, 2.5,
  ]);
});

it("continues with the later stream", () => {
  const spans = [
    { at: 0, head: HEAD },
    { at: 3, head: { ...HEAD, start: 3 } },
  ];
  expect(clipTime(spans, 2.5)).toBe(3.5);
  expect(clipTime(spans, 3.25)).toBe(3.25);
});

it("goes through more of the clip where it plays faster", () => {
  const spans = [{ at: 0, head: { ...HEAD, speed: 2, loop_length: 2 } }];
  expect([0.25, 0.5, 1.5].map((watched) => clipTime(spans, watched))).toEqual([5.5, 2, 4]);
});
