import { type KeyboardEvent, type MouseEvent, useRef } from "react";
import type { Cell } from "../api/client";
import { useKeys, useListed } from "../ui/keyboard";
import { focusedOf } from "./arranging";
import { useBoardState } from "./board-store";
import { gridOf, rangeOf, toggled, walked } from "./selection";

const KEYS = [
  { keys: "Arrows", does: "To the next cell" },
  { keys: "Shift+Arrows", does: "Select as far as there" },
  { keys: "Space", does: "Show its first, middle and last frame" },
  { keys: "Shift+Space", does: "Select the cell" },
  { keys: "Enter", does: "Open it on the bench" },
  { keys: "$mod+a", does: "Select all cells" },
  { keys: "Escape", does: "Select none" },
];

/** Walking the cells by arrow keys, and selecting in them; `reach` gives a cell the focus. */
export function useGridKeys(reach: (cell: number) => void) {
  const state = useBoardState();
  const anchor = useRef<number | null>(null);
  function reachFocused() {
    const cell = focusedOf(state().rows, state().focused);
    if (cell) reach(cell);
  }
  useKeys([{ keys: "c", does: "To the cells", act: reachFocused }]);
  useListed(KEYS);

  return (event: KeyboardEvent) => {
    if ((event.target as Element).matches("input[type=text], input:not([type])")) return;
    const { rows, selected, select, focusOn } = state();
    const grid = gridOf(rows);
    const here = Number((event.target as Element).getAttribute?.("data-cell"));
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "a") {
      event.preventDefault();
      select(grid.flat());
    } else if (event.key === "Escape") select([]);
    if (!here) return;
    if (event.key === " " && event.shiftKey) {
      event.preventDefault();
      anchor.current = here;
      select(toggled(selected, [here]));
      focusOn(here);
    }
    const next = walked(grid, here, event.key);
    if (next === null) return;
    event.preventDefault();
    if (event.shiftKey) {
      anchor.current ??= here;
      select(rangeOf(grid, anchor.current, next));
    } else anchor.current = null;
    focusOn(next);
    reach(next);
  };
}

/** Selecting a cell by the pointer; with Shift as far as it from the one before. */
export function usePick() {
  const state = useBoardState();
  return (event: MouseEvent, id: number) => {
    const { rows, selected, select, focused, focusOn } = state();
    if (event.shiftKey && focused !== null) select([...selected, ...rangeOf(gridOf(rows), focused, id)]);
    else select(toggled(selected, [id]));
    focusOn(id);
  };
}

/** Selecting all of these cells, or none of them if all are selected. */
export function useToggle() {
  const state = useBoardState();
  return (cells: (Cell | undefined)[]) => {
    const ids = cells.flatMap((cell) => cell?.id ?? []);
    state().select(toggled(state().selected, ids));
  };
}
