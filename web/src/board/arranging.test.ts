import { expect, test } from "vitest";
import type { Board } from "../api/client";
import { newestOf, renderedInWords } from "../rendering/rendered";
import { arranged, FAILED, failures, reasonCounts } from "./arranging";

const clip = (id: number, name: string, display_aspect: number) => ({
  id,
  name,
  display_aspect,
});
const cell = (id: number, footage: number, reasons: string[]) => ({
  id,
  footage,
  frame: 1,
  concerns: reasons.map((reason) => ({ reason, summary: reason })),
});
const board = {
  frames: [{ id: 1 }],
  footage: [clip(1, "Bell", 2), clip(2, "Arch", 1), clip(3, "Cab", 0.5)],
  cells: [cell(11, 1, []), cell(12, 2, ["lost"]), cell(13, 3, ["lost", "bars"])],
} as unknown as Board;
const none = { order: "added", reason: null, words: "", renders: new Map() } as const;
const names = (rows: ReturnType<typeof arranged>) => rows.map(({ footage }) => footage.name);

test("clips are sorted by name, shape and state", () => {
  expect(names(arranged(board, { ...none, order: "added" }))).toEqual(["Bell", "Arch", "Cab"]);
  expect(names(arranged(board, { ...none, order: "name" }))).toEqual(["Arch", "Bell", "Cab"]);
  expect(names(arranged(board, { ...none, order: "shape" }))).toEqual(["Bell", "Arch", "Cab"]);
  expect(names(arranged(board, { ...none, order: "state" }))).toEqual(["Cab", "Arch", "Bell"]);
});

test("only clips that need a look, or need it for one reason", () => {
  expect(names(arranged(board, { ...none, reason: "any" }))).toEqual(["Arch", "Cab"]);
  expect(names(arranged(board, { ...none, reason: "bars" }))).toEqual(["Cab"]);
  expect(reasonCounts(board)).toEqual({ any: 2, lost: 2, bars: 1 });
});

test("clips are found by words of their names", () => {
  expect(names(arranged(board, { ...none, words: "B" }))).toEqual(["Bell", "Cab"]);
  expect(names(arranged(board, { ...none, words: "el b" }))).toEqual(["Bell"]);
  expect(names(arranged(board, { ...none, words: "bell tower" }))).toEqual([]);
});

test("what failed is found by the last render of each framing", () => {
  const at = { done: 0, total: 0, current: true, report: null };
  const renders = newestOf([
    { framing: 13, state: "failed", ...at },
    { framing: 12, state: "done", ...at },
    { framing: 12, state: "failed", ...at },
  ]);
  expect(names(arranged(board, { ...none, reason: FAILED, renders }))).toEqual(["Cab"]);
  expect(failures(board, renders)).toBe(1);
});

test("a finished file whose check failed is a failure too, and is called one", () => {
  const wrong = { state: "done", done: 1, total: 1, current: true, report: { right: false } } as const;
  const renders = newestOf([
    { framing: 12, ...wrong },
    { framing: 13, ...wrong, report: { right: true } },
  ]);
  expect(names(arranged(board, { ...none, reason: FAILED, renders }))).toEqual(["Arch"]);
  expect(renderedInWords(wrong)).toBe("check failed");
  expect(renderedInWords({ ...wrong, current: false })).toBe("check failed, changed since");
});

test("the last render is described in few words", () => {
  const render = { state: "done", current: false, done: 1, total: 3, report: { right: true } } as const;
  expect(renderedInWords(render)).toBe("rendered, changed since");
  expect(renderedInWords({ ...render, current: true })).toBe("rendered");
  expect(renderedInWords({ ...render, state: "running" })).toBe("rendering, 33%");
  expect(renderedInWords({ ...render, state: "cancelled" })).toBe("");
  expect(renderedInWords(undefined)).toBe("");
});
