import { useWindowVirtualizer } from "@tanstack/react-virtual";
import { type CSSProperties, type RefObject, useEffect, useRef } from "react";
import { usePrinting } from "../ui/use-printing";
import type { Row } from "./arranging";
import { BoardRow } from "./board-row";
import { useBoard } from "./board-store";
import { FrameHeading, FrameName } from "./frame-heading";
import { BELOW, boardWidth, CLIP_WIDTH, columnWidth } from "./pictures";
import { gridOf } from "./selection";
import { useGridKeys } from "./use-grid-keys";

const AHEAD = 4;

/** Clips down, frames across. Arrow keys walk the cells, Enter opens the bench. */
export function BoardTable() {
  const { board, rows, height, working } = useBoard("board", "rows", "height", "working");
  const table = useRef<HTMLTableElement>(null);
  const { virtual, drawn, before, behind } = useRowsInSight(table, rows, height);

  /** Scroll to a cell, whose row may only then be drawn, and give it the focus. */
  function reach(cell: number) {
    const focus = () => table.current?.querySelector<HTMLElement>(`[data-cell="${cell}"]`)?.focus();
    virtual.scrollToIndex(gridOf(rows).findIndex((cells) => cells.includes(cell)));
    focus();
    requestAnimationFrame(focus);
  }

  const onKeyDown = useGridKeys(reach);
  return (
    <table
      ref={table}
      // biome-ignore lint/a11y/noNoninteractiveElementToInteractiveRole: its cells are walked by arrow keys
      role="grid"
      aria-label="Clips and frames"
      aria-multiselectable={working}
      aria-rowcount={rows.length + 1}
      className="board w-(--board) min-w-full table-fixed border-collapse"
      style={{ "--board": `${boardWidth(board.frames, height)}px` } as CSSProperties}
      onKeyDown={onKeyDown}
    >
      <colgroup>
        <col style={{ width: CLIP_WIDTH }} />
        {board.frames.map((row) => (
          <col key={row.id} style={{ width: columnWidth(row, height) }} />
        ))}
        <col />
      </colgroup>
      <thead className="sticky top-0 z-10 bg-paper">
        <tr aria-rowindex={1} className="border-b border-rule text-left align-bottom">
          <th scope="col" className="py-2 font-normal text-soft">
            Clips / Frames
          </th>
          {board.frames.map((row, column) =>
            working ? (
              <FrameHeading key={row.id} row={row} column={column} />
            ) : (
              <FrameName key={row.id} row={row} />
            ),
          )}
        </tr>
      </thead>
      <tbody>
        {before > 0 && <tr aria-hidden style={{ height: before }} />}
        {drawn.map(({ index, key }) => (
          <BoardRow key={key} row={rows[index] as Row} index={index} measured={virtual.measureElement} />
        ))}
        {behind > 0 && <tr aria-hidden style={{ height: behind }} />}
      </tbody>
    </table>
  );
}

/** The rows in or near sight, and the heights of the rest before and behind them. */
function useRowsInSight(table: RefObject<HTMLTableElement | null>, rows: Row[], height: number) {
  const printing = usePrinting();
  const virtual = useWindowVirtualizer({
    count: rows.length,
    estimateSize: () => height + BELOW,
    overscan: printing ? rows.length : AHEAD,
    scrollMargin: table.current?.offsetTop ?? 0,
    getItemKey: (index) => rows[index]?.footage.id ?? index,
  });
  // biome-ignore lint/correctness/useExhaustiveDependencies: rows measured at another height are not that high any more
  useEffect(() => virtual.measure(), [height]);
  const drawn = virtual.getVirtualItems();
  const before = (drawn[0]?.start ?? 0) - virtual.options.scrollMargin;
  const behind = virtual.getTotalSize() + virtual.options.scrollMargin - (drawn.at(-1)?.end ?? 0);
  return { virtual, drawn, before, behind };
}
