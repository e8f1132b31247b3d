/** Cells by id, row by row as the board shows them. */
export type Grid = number[][];

export const gridOf = (rows: { cells: ({ id: number } | undefined)[] }[]): Grid =>
  rows.map(({ cells }) => cells.flatMap((cell) => (cell ? [cell.id] : [])));

function placeOf(grid: Grid, id: number): [number, number] | null {
  const row = grid.findIndex((cells) => cells.includes(id));
  return row < 0 ? null : [row, (grid[row] ?? []).indexOf(id)];
}

/** The rectangle of cells between two; the second alone where the first is not on the board. */
export function rangeOf(grid: Grid, from: number, to: number): number[] {
  const [start, end] = [placeOf(grid, from), placeOf(grid, to)];
  if (!start || !end) return [to];
  const [top, bottom] = [Math.min(start[0], end[0]), Math.max(start[0], end[0])];
  const [left, right] = [Math.min(start[1], end[1]), Math.max(start[1], end[1])];
  return grid.slice(top, bottom + 1).flatMap((cells) => cells.slice(left, right + 1));
}

/** Some cells added to those selected; taken away where all of them are selected already. */
export function toggled(selected: ReadonlySet<number>, ids: number[]): Set<number> {
  const next = new Set(selected);
  const all = ids.every((id) => selected.has(id));
  for (const id of ids) {
    if (all) next.delete(id);
    else next.add(id);
  }
  return next;
}

const WAYS: Record<string, [number, number]> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

/** The cell that a key leads to from another, or null where the key leads nowhere. */
export function walked(grid: Grid, from: number, key: string): number | null {
  const way = WAYS[key];
  const place = placeOf(grid, from);
  if (!way || !place) return null;
  return grid[place[0] + way[0]]?.[place[1] + way[1]] ?? from;
}

/** Ids as a short text for an address: neighbours together, such as "3-7.12". */
export function written(ids: Iterable<number>): string {
  const parts: string[] = [];
  let first = Number.NaN;
  let last = Number.NaN;
  const close = () => {
    if (!Number.isNaN(first)) parts.push(first === last ? `${first}` : `${first}-${last}`);
  };
  for (const id of [...ids].sort((one, other) => one - other)) {
    if (id !== last + 1) {
      close();
      first = id;
    }
    last = id;
  }
  close();
  return parts.join(".");
}

const MOST = 20_000;

/** The ids in such a text; parts that are not ids are ignored. */
export function readIds(text: string): Set<number> {
  const found = new Set<number>();
  for (const part of text.split(".")) {
    const [first, last] = part.split("-").map(Number);
    for (let id = first ?? 0; id <= (last ?? first ?? 0) && found.size < MOST; id++)
      if (id > 0) found.add(id);
  }
  return found;
}
