import { useWindowVirtualizer } from "@tanstack/react-virtual";
import { type KeyboardEvent, type MouseEvent, useMemo, useRef, useState } from "react";
import { useNavigate } from "react-router";
import type { Board } from "../api/client";
import { shown } from "../api/exact";
import { useListed } from "../ui/keyboard";
import type { Row } from "./arranging";
import { BoardRow } from "./board-row";
import { type Grid, rangeOf, toggled, walked } from "./selection";

type Props = {
  board: Board;
  rows: Row[];
  folders: boolean;
  selected: ReadonlySet<number>;
  onSelect: (selected: Set<number>) => void;
  onRemove: (footageId: number) => void;
};

const ROW_PX = 97;
const AHEAD = 9;

/** Clips down, frames across. Arrow keys walk the cells, space selects, Enter opens the bench. */
export function BoardTable({ board, rows, folders, selected, onSelect, onRemove }: Props) {
  const navigate = useNavigate();
  useListed([
    { keys: "Arrows", does: "To the next cell" },
    { keys: "Shift+Arrows", does: "Select as far as there" },
    { keys: "Space", does: "Select the cell" },
    { keys: "Enter", does: "Open it on the bench" },
    { keys: "$mod+a", does: "Select all cells" },
    { keys: "Escape", does: "Select none" },
  ]);
  const table = useRef<HTMLTableElement>(null);
  const [at, setAt] = useState<number | null>(null);
  const anchor = useRef<number | null>(null);
  const grid: Grid = rows.map(({ cells }) => cells.flatMap((cell) => (cell ? [cell.id] : [])));
  const first = grid[0]?.[0] ?? null;
  const reachable = at !== null && grid.some((cells) => cells.includes(at)) ? at : first;

  const virtual = useWindowVirtualizer({
    count: rows.length,
    estimateSize: () => ROW_PX,
    overscan: AHEAD,
    scrollMargin: table.current?.offsetTop ?? 0,
    getItemKey: (index) => rows[index]?.footage.id ?? index,
  });
  const drawn = virtual.getVirtualItems();
  const before = (drawn[0]?.start ?? 0) - virtual.options.scrollMargin;
  const behind = virtual.getTotalSize() + virtual.options.scrollMargin - (drawn.at(-1)?.end ?? 0);

  function pick(event: MouseEvent | KeyboardEvent, id: number) {
    if (event.shiftKey && anchor.current !== null) {
      onSelect(new Set([...selected, ...rangeOf(grid, anchor.current, id)]));
    } else {
      anchor.current = id;
      onSelect(toggled(selected, [id]));
    }
    setAt(id);
  }

  // Rows are drawn again only when what they show changes, so what they call must stay the same.
  const now = useRef({ pick, selectRow: (ids: number[]) => onSelect(toggled(selected, ids)) });
  now.current = { pick, selectRow: (ids) => onSelect(toggled(selected, ids)) };
  const steady = useMemo(
    () => ({
      pick: (event: MouseEvent, id: number) => now.current.pick(event, id),
      selectRow: (ids: number[]) => now.current.selectRow(ids),
    }),
    [],
  );

  function onKeyDown(event: KeyboardEvent) {
    const here = Number((event.target as Element).getAttribute?.("data-cell"));
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "a") {
      event.preventDefault();
      onSelect(new Set(grid.flat()));
    } else if (event.key === "Escape") onSelect(new Set());
    if (!here) return;
    if (event.key === " ") {
      event.preventDefault();
      pick(event, here);
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

  /** Bring a cell into sight, where its row may only then be drawn, and give it the focus. */
  function reach(cell: number) {
    const focus = () => table.current?.querySelector<HTMLElement>(`[data-cell="${cell}"]`)?.focus();
    virtual.scrollToIndex(grid.findIndex((cells) => cells.includes(cell)));
    focus();
    requestAnimationFrame(focus);
  }

  return (
    <table ref={table} className="w-full border-collapse" onKeyDown={onKeyDown}>
      <thead className="sticky top-0 z-10 bg-paper">
        <tr className="border-b border-rule text-left align-bottom">
          <th className="px-3 py-2 font-normal text-soft">footage ↓&ensp;frame →</th>
          {board.frames.map((frame, column) => (
            <th key={frame.id} className="px-3 py-2">
              <button
                type="button"
                title="Select the whole column"
                className="block text-left font-bold hover:underline"
                onClick={() =>
                  onSelect(
                    toggled(
                      selected,
                      grid.flatMap((cells) => cells[column] ?? []),
                    ),
                  )
                }
              >
                {frame.frame.name}
              </button>
              <button
                type="button"
                title="Open this frame on the bench"
                className="num block text-left font-normal text-soft hover:text-ink"
                onClick={() =>
                  grid[0]?.[column] &&
                  navigate(`/projects/${board.id}/framings/${grid[0][column]}?step=frame`)
                }
              >
                {frame.shape} {frame.frame.width}×{frame.frame.height}
                {frame.frame.active && `, ${shown(frame.frame.active)} inside`}
              </button>
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {before > 0 && <tr style={{ height: before }} />}
        {drawn.map(({ index, key }) => {
          const { footage, cells } = rows[index] as Row;
          return (
            <BoardRow
              key={key}
              {...{ footage, cells, folders, onRemove, index }}
              measured={virtual.measureElement}
              projectId={board.id}
              frames={board.frames}
              selected={cells.flatMap((cell) => (cell && selected.has(cell.id) ? [cell.id] : [])).join(" ")}
              reachable={cells.some((cell) => cell?.id === reachable) ? reachable : null}
              onPick={steady.pick}
              onSelectRow={steady.selectRow}
            />
          );
        })}
        {behind > 0 && <tr style={{ height: behind }} />}
      </tbody>
    </table>
  );
}
