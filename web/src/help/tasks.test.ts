import { expect, test } from "vitest";
import { TASKS, tasksWith } from "./tasks";

test("a page is found by words anywhere in it", () => {
  expect(tasksWith("bars outlines").map(({ name }) => name)).toEqual(["bars"]);
  expect(tasksWith("")).toHaveLength(TASKS.length);
  expect(tasksWith("no such thing")).toEqual([]);
});

test("every word that an editor would type leads to a page", () => {
  const typed =
    "crop letterbox pillarbox zoom captions subtitles export keyframe reframe vertical interlaced blur background";
  for (const word of [...typed.split(" "), "aspect ratio", "safe area"])
    expect(tasksWith(word), word).not.toHaveLength(0);
});

test("every page has a different name", () => {
  expect(new Set(TASKS.map(({ name }) => name)).size).toBe(TASKS.length);
});
