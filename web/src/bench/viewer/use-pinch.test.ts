import { expect, test } from "vitest";
import { pinched } from "./use-pinch";

const initial = { scale: 0.5, offset: { x: 10, y: -20 } };

test("what lies between the fingers stays between them", () => {
  const from = { apart: 100, middle: { x: 200, y: 50 } };
  const now = { apart: 150, middle: { x: 230, y: 40 } };
  const { scale, offset } = pinched(from, now, initial, 16);
  expect(scale).toBeCloseTo(0.75);
  // A point of the picture, from its middle, in pixels of the picture.
  const held = { x: (200 - 10) / 0.5, y: (50 + 20) / 0.5 };
  expect(offset.x + held.x * scale).toBeCloseTo(230);
  expect(offset.y + held.y * scale).toBeCloseTo(40);
});

test("two fingers that go together move it", () => {
  const from = { apart: 80, middle: { x: 0, y: 0 } };
  const now = { apart: 80, middle: { x: 33, y: -7 } };
  expect(pinched(from, now, initial, 16)).toEqual({ scale: 0.5, offset: { x: 43, y: -27 } });
});

test("it grows and shrinks only as far as it may", () => {
  const from = { apart: 10, middle: { x: 0, y: 0 } };
  expect(pinched(from, { ...from, apart: 1000 }, initial, 16).scale).toBe(16);
  expect(pinched(from, { ...from, apart: 0 }, initial, 16).scale).toBe(1 / 16);
});
