import { type KeyboardEvent, type MouseEvent, useRef, useState } from "react";
import { useKeys, useListed } from "../ui/keyboard";
import { type Grid, rangeOf, toggled, walked } from "./selection";

type Given = {
  grid: Grid;
  selected: ReadonlySet<number>;
  onSelect: (selected: Set<number>) => void;
  /** Gives a cell the focus. */
  reach: (cell: number) => void;
};

/** Walking a grid by arrow keys, and selecting in it. */
export function useWalking({ grid, selected, onSelect, reach }: Given) {
  const [at, setAt] = useState<number | null>(null);
  const there = at !== null && grid.some((cells) => cells.includes(at));
  const reachable = there ? at : (grid[0]?.[0] ?? null);
  const anchor = useRef<number | null>(null);
  useKeys([{ keys: "c", does: "To the cells", act: () => reachable !== null && reach(reachable) }]);
  useListed([
    { keys: "Arrows", does: "To the next cell" },
    { keys: "Shift+Arrows", does: "Select as far as there" },
    { keys: "Space", does: "Show its first, middle and last frame" },
    { keys: "Shift+Space", does: "Select the cell" },
    { keys: "Enter", does: "Open it on the bench" },
    { keys: "$mod+a", does: "Select all cells" },
    { keys: "Escape", does: "Select none" },
  ]);

  function pick(event: MouseEvent, id: number) {
    if (event.shiftKey && anchor.current !== null) {
      onSelect(new Set([...selected, ...rangeOf(grid, anchor.current, id)]));
    } else {
      anchor.current = id;
      onSelect(toggled(selected, [id]));
    }
    setAt(id);
  }

  function onKeyDown(event: KeyboardEvent) {
    if ((event.target as Element).matches("input[type=text], input:not([type])")) return;
    const here = Number((event.target as Element).getAttribute?.("data-cell"));
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "a") {
      event.preventDefault();
      onSelect(new Set(grid.flat()));
    } else if (event.key === "Escape") onSelect(new Set());
    if (!here) return;
    if (event.key === " " && event.shiftKey) {
      event.preventDefault();
      anchor.current = here;
      onSelect(toggled(selected, [here]));
      setAt(here);
    }
    const next = walked(grid, here, event.key);
    if (next === null) return;
    event.preventDefault();
    if (event.shiftKey) {
      anchor.current ??= here;
      onSelect(new Set(rangeOf(grid, anchor.current, next)));
    } else anchor.current = null;
    setAt(next);
    reach(next);
  }

  return { reachable, pick, onKeyDown };
}
