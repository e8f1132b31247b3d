import { expect, test } from "vitest";
import { moment, timecode } from "./timecode";

test("timecode counts whole frames", () => {
  expect(timecode(0, "25")).toBe("00:00:00:00");
  expect(timecode(112, "25")).toBe("00:00:04:12");
  expect(timecode(24, "24000/1001")).toBe("00:00:01:00");
  expect(timecode(3600 * 30, "30000/1001")).toBe("01:00:00:00");
});

test("a moment is exact", () => {
  expect(moment(0, "25")).toBe("1/50");
  expect(moment(3, "24000/1001")).toBe("7007/48000");
});
