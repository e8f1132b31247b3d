import { useWindowVirtualizer } from "@tanstack/react-virtual";
import { type CSSProperties, type MouseEvent, type RefObject, useEffect, useMemo, useRef } from "react";
import type { Board } from "../api/client";
import { type Rendered, renderedInWords } from "../rendering/rendered";
import { usePrinting } from "../ui/use-printing";
import { failed, type Row } from "./arranging";
import { BoardRow } from "./board-row";
import { FrameHeading, sizeOf } from "./frame-heading";
import { BELOW, boardWidth, CLIP_WIDTH, columnWidth } from "./pictures";
import { type Grid, toggled } from "./selection";
import type { Frames } from "./use-frames";
import { useWalking } from "./use-walking";

/** What can be done on a board by who works on it. */
export type Work = {
  folders: boolean;
  selected: ReadonlySet<number>;
  onSelect: (selected: Set<number>) => void;
  onRemove: (footageId: number) => void;
  frames: Frames;
  /** Puts a clip before another, or last; null where the rows are not in the order of their people. */
  onArrange: ((id: number, before: number | null) => void) | null;
};

type Props = {
  board: Board;
  rows: Row[];
  /** Of all pictures, in pixels. */
  height: number;
  renders: ReadonlyMap<number, Rendered>;
  /** Null where the board is only looked at; a press on a cell then calls `onOpen`. */
  work: Work | null;
  onOpen?: (cell: number) => void;
};

const AHEAD = 4;
/** In place of the clip that another is put before. */
const LAST = 0;
const NOTHING = new Set<number>();

/** Clips down, frames across. Arrow keys walk the cells, Enter opens the bench. */
export function BoardTable({ board, rows, height, renders, work, onOpen }: Props) {
  const table = useRef<HTMLTableElement>(null);
  const grid: Grid = rows.map(({ cells }) => cells.flatMap((cell) => (cell ? [cell.id] : [])));
  const selected = work?.selected ?? NOTHING;
  const onSelect = work?.onSelect ?? (() => undefined);
  const onArrange = work?.onArrange ?? null;
  const { virtual, drawn, before, behind } = useRowsInSight(table, rows, height);

  /** Bring a cell into sight, where its row may only then be drawn, and give it the focus. */
  function reach(cell: number) {
    const focus = () => table.current?.querySelector<HTMLElement>(`[data-cell="${cell}"]`)?.focus();
    virtual.scrollToIndex(grid.findIndex((cells) => cells.includes(cell)));
    focus();
    requestAnimationFrame(focus);
  }

  const { reachable, pick, onKeyDown } = useWalking({ grid, selected, onSelect, reach });
  const steady = useSteady({
    pick,
    selectRow: (ids: number[]) => onSelect(toggled(selected, ids)),
    arrange: (id: number, to: number) => onArrange?.(id, to === LAST ? null : to),
    remove: (footageId: number) => work?.onRemove(footageId),
    open: (cell: number) => onOpen?.(cell),
  });

  return (
    <table
      ref={table}
      // biome-ignore lint/a11y/noNoninteractiveElementToInteractiveRole: its cells are walked by arrow keys
      role="grid"
      aria-label="Clips and frames"
      aria-multiselectable={work !== null}
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
      <Headings {...{ board, grid, work }} />
      <tbody>
        {before > 0 && <tr aria-hidden style={{ height: before }} />}
        {drawn.map(({ index, key }) => {
          const { footage, cells } = rows[index] as Row;
          const neighbours = onArrange && [index - 1, index + 2].map((at) => rows[at]?.footage.id ?? null);
          return (
            <BoardRow
              key={key}
              {...{ footage, cells, index, height }}
              folders={work?.folders ?? false}
              working={work !== null}
              measured={virtual.measureElement}
              projectId={board.id}
              frames={board.frames}
              selected={idsOf(cells.filter((cell) => cell && selected.has(cell.id)))}
              reachable={cells.some((cell) => cell?.id === reachable) ? reachable : null}
              failed={idsOf(cells.filter((cell) => failed(cell, renders)))}
              rendered={cells.map((cell) => renderedInWords(cell && renders.get(cell.id))).join("\n")}
              above={neighbours && index > 0 ? (neighbours[0] ?? null) : null}
              below={neighbours && index < rows.length - 1 ? (neighbours[1] ?? LAST) : null}
              {...steady}
            />
          );
        })}
        {behind > 0 && <tr aria-hidden style={{ height: behind }} />}
      </tbody>
    </table>
  );
}

/** The ids of some cells as text, so that a row is drawn again only if they change. */
const idsOf = (cells: Row["cells"]) => cells.flatMap((cell) => cell?.id ?? []).join(" ");

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

type Acts = {
  pick: (event: MouseEvent, id: number) => void;
  selectRow: (ids: number[]) => void;
  arrange: (id: number, before: number) => void;
  remove: (footageId: number) => void;
  open: (cell: number) => void;
};

/** Functions that never change: rows are drawn again only when their contents change. */
function useSteady(acts: Acts) {
  const now = useRef(acts);
  now.current = acts;
  return useMemo(
    () => ({
      onPick: (event: MouseEvent, id: number) => now.current.pick(event, id),
      onSelectRow: (ids: number[]) => now.current.selectRow(ids),
      onArrange: (id: number, before: number) => now.current.arrange(id, before),
      onRemove: (footageId: number) => now.current.remove(footageId),
      onOpen: (cell: number) => now.current.open(cell),
    }),
    [],
  );
}

/** The frames at the heads of their columns. */
function Headings({ board, grid, work }: { board: Board; grid: Grid; work: Work | null }) {
  return (
    <thead className="sticky top-0 z-10 bg-paper">
      <tr aria-rowindex={1} className="border-b border-rule text-left align-bottom">
        <th scope="col" className="py-2 font-normal text-soft">
          Clips / Frames
        </th>
        {board.frames.map((frame, column) => {
          const first = grid[0]?.[column];
          return work ? (
            <FrameHeading
              key={frame.id}
              row={frame}
              frames={work.frames}
              first={column === 0}
              last={column === board.frames.length - 1}
              bench={first ? `/projects/${board.id}/framings/${first}?step=frame` : null}
              onSelect={() => {
                const below = grid.flatMap((cells) => cells[column] ?? []);
                work.onSelect(toggled(work.selected, below));
              }}
            />
          ) : (
            <th key={frame.id} scope="col" className="py-2 pr-3 font-normal">
              <span className="block font-bold wrap-anywhere">{frame.frame.name}</span>
              <span className="num block text-soft">{sizeOf(frame)}</span>
            </th>
          );
        })}
      </tr>
    </thead>
  );
}
