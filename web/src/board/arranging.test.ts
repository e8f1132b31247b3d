import { expect, test } from "vitest";
import type { Board } from "../api/client";
import { arranged, reasonCounts } from "./arranging";

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
const names = (rows: ReturnType<typeof arranged>) => rows.map(({ footage }) => footage.name);

test("clips are sorted by name, shape and state", () => {
  expect(names(arranged(board, "added", null))).toEqual(["Bell", "Arch", "Cab"]);
  expect(names(arranged(board, "name", null))).toEqual(["Arch", "Bell", "Cab"]);
  expect(names(arranged(board, "shape", null))).toEqual(["Bell", "Arch", "Cab"]);
  expect(names(arranged(board, "state", null))).toEqual(["Cab", "Arch", "Bell"]);
});

test("only clips that need a look, or need it for one reason", () => {
  expect(names(arranged(board, "added", "any"))).toEqual(["Arch", "Cab"]);
  expect(names(arranged(board, "added", "bars"))).toEqual(["Cab"]);
  expect(reasonCounts(board)).toEqual({ any: 2, lost: 2, bars: 1 });
});
