import { expect, test } from "vitest";
import { evaluate } from "./arithmetic";

test.each([
  ["12", 12],
  ["100/3", 100 / 3],
  ["1920/2 - 4", 956],
  ["2*(3+4)", 14],
  ["-5", -5],
  ["3,5", 3.5],
  ["62%", 62],
  ["10 px", 10],
  ["4 × 2", 8],
])("%s is %d", (typed, value) => {
  expect(evaluate(typed)).toBeCloseTo(value);
});

test.each(["", "abc", "1+", "(2", "2)", "1/0", "1 2", "alert(1)"])("%s is no arithmetic", (typed) => {
  expect(evaluate(typed)).toBeNull();
});
