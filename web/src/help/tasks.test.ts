import { expect, test } from "vitest";
import { TASKS, tasksWith } from "./tasks";

test("a page is found by words anywhere in it", () => {
  expect(tasksWith("bars outlines").map(({ name }) => name)).toEqual(["bars"]);
  expect(tasksWith("")).toHaveLength(TASKS.length);
  expect(tasksWith("no such thing")).toEqual([]);
});

test("every page has a name of its own", () => {
  expect(new Set(TASKS.map(({ name }) => name)).size).toBe(TASKS.length);
});
