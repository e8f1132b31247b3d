import { expect, test } from "vitest";
import { megabytes, remaining } from "./words";

test("sizes are shown in megabytes", () => {
  expect(megabytes(834_000)).toBe("0.8 MB");
  expect(megabytes(123_400_000)).toBe("123 MB");
});

test("time left is shown in seconds and minutes", () => {
  expect(remaining(null)).toBe("");
  expect(remaining(4.2)).toBe("5 s left");
  expect(remaining(75)).toBe("1 min 15 s left");
});
