import { beforeEach, expect, test, vi } from "vitest";
import { noteInside, noteOutside, undoLast, useOutsideHistory } from "./outside-history";

beforeEach(noteInside);

test("a change outside the history is reported, and nothing older is undone", () => {
  const undo = vi.fn();
  noteOutside("The change of the source");
  undoLast(undo);
  expect(undo).not.toHaveBeenCalled();
  expect(useOutsideHistory.getState().told).toBe("The change of the source");
  undoLast(undo);
  expect(undo).toHaveBeenCalledOnce();
  expect(useOutsideHistory.getState().told).toBeNull();
});

test("a step that was made after it is undone at once", () => {
  const undo = vi.fn();
  noteOutside("The change of the frame");
  noteInside();
  undoLast(undo);
  expect(undo).toHaveBeenCalledOnce();
});
