import { expect, test } from "vitest";
import { parts, shown, toExact, toNumber } from "./exact";

test("exact text is read as a number", () => {
  expect(toNumber("607.5")).toBe(607.5);
  expect(toNumber("2460/11")).toBeCloseTo(223.6364, 4);
  expect(toNumber("-0.25")).toBe(-0.25);
});

test("numbers are written without needless digits", () => {
  expect(toExact(0.5)).toBe("0.5");
  expect(toExact(12)).toBe("12");
  expect(toExact(100, 0)).toBe("100");
  expect(toExact(-0.00001)).toBe("0");
  expect(shown("3375/44")).toBe("76.7");
  expect(shown("656.25")).toBe("656.25");
});

test("a ratio comes apart into whole numbers", () => {
  expect(parts("24000/1001")).toEqual([24000, 1001]);
  expect(parts("29.97")).toEqual([2997, 100]);
  expect(parts("25")).toEqual([25, 1]);
});
