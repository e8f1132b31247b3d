import { useWindowVirtualizer } from "@tanstack/react-virtual";
import { type MouseEvent, useMemo, useRef } from "react";
import type { Board } from "../api/client";
import { type Rendered, renderedInWords } from "../renders/rendered";
import { usePrinting } from "../ui/use-printing";
import type { Row } from "./arranging";
import { BoardRow } from "./board-row";
import { FrameHeading } from "./frame-heading";
import { type Grid, toggled } from "./selection";
import type { Frames } from "./use-frames";
import { useWalking } from "./use-walking";

type Props = {
  board: Board;
  rows: Row[];
  folders: boolean;
  selected: ReadonlySet<number>;
  onSelect: (selected: Set<number>) => void;
  onRemove: (footageId: number) => void;
  frames: Frames;
  renders: ReadonlyMap<number, Rendered>;
  /** Puts a clip before another, or last; null where the rows are not in the order of their people. */
  onArrange: ((id: number, before: number | null) => void) | null;
};

const ROW_PX = 97;
const AHEAD = 9;
/** In place of the clip that another is put before. */
const LAST = 0;

/** Clips down, frames across. Arrow keys walk the cells, space selects, Enter opens the bench. */
export function BoardTable(props: Props) {
  const { board, rows, folders, selected, onSelect, onRemove, frames, renders, onArrange } = props;
  const table = useRef<HTMLTableElement>(null);
  const printing = usePrinting();
  const grid: Grid = rows.map(({ cells }) => cells.flatMap((cell) => (cell ? [cell.id] : [])));
  const virtual = useWindowVirtualizer({
    count: rows.length,
    estimateSize: () => ROW_PX,
    overscan: printing ? rows.length : AHEAD,
    scrollMargin: table.current?.offsetTop ?? 0,
    getItemKey: (index) => rows[index]?.footage.id ?? index,
  });
  const drawn = virtual.getVirtualItems();
  const before = (drawn[0]?.start ?? 0) - virtual.options.scrollMargin;
  const behind = virtual.getTotalSize() + virtual.options.scrollMargin - (drawn.at(-1)?.end ?? 0);

  /** Bring a cell into sight, where its row may only then be drawn, and give it the focus. */
  function reach(cell: number) {
    const focus = () => table.current?.querySelector<HTMLElement>(`[data-cell="${cell}"]`)?.focus();
    virtual.scrollToIndex(grid.findIndex((cells) => cells.includes(cell)));
    focus();
    requestAnimationFrame(focus);
  }

  const { reachable, pick, onKeyDown } = useWalking({ grid, selected, onSelect, reach });
  // Rows are drawn again only when what they show changes, so what they call must stay the same.
  const selectRow = (ids: number[]) => onSelect(toggled(selected, ids));
  const now = useRef({ pick, selectRow, onArrange });
  now.current = { pick, selectRow, onArrange };
  const steady = useMemo(
    () => ({
      pick: (event: MouseEvent, id: number) => now.current.pick(event, id),
      selectRow: (ids: number[]) => now.current.selectRow(ids),
      arrange: (id: number, before: number) => now.current.onArrange?.(id, before === LAST ? null : before),
    }),
    [],
  );

  return (
    <table
      ref={table}
      // biome-ignore lint/a11y/noNoninteractiveElementToInteractiveRole: its cells are walked by arrow keys
      role="grid"
      aria-label="Clips and frames"
      aria-multiselectable
      aria-rowcount={rows.length + 1}
      className="w-full border-collapse"
      onKeyDown={onKeyDown}
    >
      <thead className="sticky top-0 z-10 bg-paper">
        <tr aria-rowindex={1} className="border-b border-rule text-left align-bottom">
          <th scope="col" className="px-3 py-2 font-normal text-soft">
            footage ↓&ensp;frame →
          </th>
          {board.frames.map((frame, column) => (
            <FrameHeading
              key={frame.id}
              row={frame}
              frames={frames}
              first={column === 0}
              last={column === board.frames.length - 1}
              bench={
                grid[0]?.[column] ? `/projects/${board.id}/framings/${grid[0][column]}?step=frame` : null
              }
              onSelect={() =>
                onSelect(
                  toggled(
                    selected,
                    grid.flatMap((cells) => cells[column] ?? []),
                  ),
                )
              }
            />
          ))}
        </tr>
      </thead>
      <tbody>
        {before > 0 && <tr aria-hidden style={{ height: before }} />}
        {drawn.map(({ index, key }) => {
          const { footage, cells } = rows[index] as Row;
          const neighbours = onArrange && [index - 1, index + 2].map((at) => rows[at]?.footage.id ?? null);
          return (
            <BoardRow
              key={key}
              {...{ footage, cells, folders, onRemove, index }}
              measured={virtual.measureElement}
              projectId={board.id}
              frames={board.frames}
              selected={cells.flatMap((cell) => (cell && selected.has(cell.id) ? [cell.id] : [])).join(" ")}
              reachable={cells.some((cell) => cell?.id === reachable) ? reachable : null}
              rendered={cells.map((cell) => renderedInWords(cell && renders.get(cell.id))).join("\n")}
              above={neighbours && index > 0 ? (neighbours[0] ?? null) : null}
              below={neighbours && index < rows.length - 1 ? (neighbours[1] ?? LAST) : null}
              onArrange={steady.arrange}
              onPick={steady.pick}
              onSelectRow={steady.selectRow}
            />
          );
        })}
        {behind > 0 && <tr aria-hidden style={{ height: behind }} />}
      </tbody>
    </table>
  );
}
