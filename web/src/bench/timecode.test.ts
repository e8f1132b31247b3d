import { expect, test } from "vitest";
import { frameOf, moment, timecode } from "./timecode";

test("timecode counts whole frames", () => {
  expect(timecode(0, "25")).toBe("00:00:00:00");
  expect(timecode(112, "25")).toBe("00:00:04:12");
  expect(timecode(24, "24000/1001")).toBe("00:00:01:00");
  expect(timecode(3600 * 30, "30000/1001")).toBe("01:00:00:00");
});

test("a typed time code names a frame", () => {
  const from = 10;
  expect(frameOf("00:00:04:12", from, "25")).toBe(112);
  expect(frameOf("4:12", from, "25")).toBe(112);
  expect(frameOf("412", from, "25")).toBe(112);
  expect(frameOf("7", from, "25")).toBe(7);
  expect(frameOf("+1:00", from, "25")).toBe(35);
  expect(frameOf("-3", from, "25")).toBe(7);
  for (const none of ["", "later", "1:2:3:4:5", "+"]) expect(frameOf(none, from, "25")).toBeNull();
});

test("a moment is exact", () => {
  expect(moment(0, "25")).toBe("1/50");
  expect(moment(3, "24000/1001")).toBe("7007/48000");
});
