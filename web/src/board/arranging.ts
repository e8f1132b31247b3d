import type { Board, Cell, Footage } from "../api/client";
import { failedCheck, type Rendered } from "../rendering/rendered";
import { stemOf } from "../ui/stem";
import { hasWords } from "../ui/words";

export type Order = "added" | "name" | "shape" | "state";
export type Row = { footage: Footage; cells: (Cell | undefined)[] };

export const ORDERS = [
  { value: "added", title: "As arranged" },
  { value: "name", title: "Name" },
  { value: "shape", title: "Widest first" },
  { value: "state", title: "To review first" },
] as const;

/** Not a reason to worry: clips whose scene can go on beyond a side. */
export const EXTENDABLE = "extendable";
export const extendable = ({ extendable: sides }: Footage) => (sides?.length ?? 0) > 0;

function concernsOf({ cells }: Row): number {
  return cells.reduce((sum, cell) => sum + (cell?.concerns.length ?? 0), 0);
}

/** How sure the least sure of its windows is. */
const surest = ({ cells }: Row) => Math.min(...cells.map((cell) => cell?.sure ?? 101));

/** Whether a cell needs a look at all ("any"), or for one reason. */
export function needsLook(cell: Cell | undefined, reason: string): boolean {
  return cell?.concerns.some((concern) => reason === "any" || concern.reason === reason) ?? false;
}

/** Not a reason to worry about a framing: its last render, or the check of its file, failed. */
export const FAILED = "failed";
export function failed(cell: Cell | undefined, renders: Renders): boolean {
  const render = cell && renders.get(cell.id);
  return render !== undefined && (render.state === "failed" || failedCheck(render));
}

type Renders = ReadonlyMap<number, Rendered>;
type Wanted = { order: Order; reason: string | null; words: string; renders: Renders };

/** The cell that the tab key reaches: the one walked to last if it is shown, otherwise the first. */
export const focusedOf = (rows: Row[], focused: number | null) =>
  rows.some(({ cells }) => cells.some((cell) => cell?.id === focused))
    ? focused
    : rows[0]?.cells.find(Boolean)?.id;

/** The rows of the board in an order; only clips with these words in their name, and a cell that the reason is for. */
export function arranged(board: Board, { order, reason, words, renders }: Wanted): Row[] {
  const byPlace = new Map(board.cells.map((cell) => [`${cell.footage} ${cell.frame}`, cell]));
  const rows = board.footage.map((footage) => ({
    footage,
    cells: board.frames.map((frame) => byPlace.get(`${footage.id} ${frame.id}`)),
  }));
  const named = rows.filter(({ footage }) => hasWords(stemOf(footage.name), words));
  const wanted = ({ footage, cells }: Row) => {
    if (reason === EXTENDABLE) return extendable(footage);
    return cells.some((cell) =>
      reason === FAILED ? failed(cell, renders) : needsLook(cell, reason ?? "any"),
    );
  };
  const shown = reason ? named.filter(wanted) : named;
  if (order === "name") shown.sort((one, other) => one.footage.name.localeCompare(other.footage.name));
  if (order === "shape")
    shown.sort((one, other) => other.footage.display_aspect - one.footage.display_aspect);
  // What follows worst comes first.
  if (reason === "doubtful") shown.sort((one, other) => surest(one) - surest(other));
  if (order === "state") shown.sort((one, other) => concernsOf(other) - concernsOf(one));
  return shown;
}

/** How many cells there are whose last render failed. */
export const failures = ({ cells }: Board, renders: Renders) =>
  cells.filter((cell) => failed(cell, renders)).length;

/** How many cells need a look, in all and for each reason. */
export function reasonCounts(board: Board): Record<string, number> {
  const counts: Record<string, number> = { any: 0 };
  for (const { concerns } of board.cells) {
    if (concerns.length) counts.any = (counts.any ?? 0) + 1;
    for (const { reason } of concerns) counts[reason] = (counts[reason] ?? 0) + 1;
  }
  return counts;
}
