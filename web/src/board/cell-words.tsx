import type { Cell } from "../api/client";
import { shown } from "../ui/exact";

/** What the board knows of a framing. */
type Known = {
  cell: Cell;
  /** The result of its last render, as text. */
  rendered: string;
  /** Whether that, or its check, failed. */
  failed: boolean;
  /** How much of the clip was analysed for following, in percent; null where nothing is being analysed. */
  analysed: number | null;
};

/** The placement, and the surround if any of it is seen. */
export const placed = ({ placement, surround }: Cell) => [placement, surround].filter(Boolean).join(" · ");

/** The most important line about a framing: a failure, a loss or fault, work in progress, or the share that is kept. */
export function secondLine({ cell, rendered, failed, analysed }: Known) {
  const concern = cell.concerns[0];
  if (failed) return { words: rendered, look: "text-rust" };
  if (concern?.wrong) return { words: withMore(cell), look: "text-rust" };
  if (cell.unsolved) return { words: following(analysed), look: "text-ochre" };
  if (concern) return { words: withMore(cell), look: "text-soft" };
  if (rendered) return { words: rendered, look: "text-moss" };
  return { words: kept(cell), look: "text-soft" };
}

const withMore = ({ concerns }: Cell) =>
  concerns.length > 1 ? `${concerns[0]?.summary} +${concerns.length - 1}` : `${concerns[0]?.summary}`;

const kept = ({ kept_percent, movement, obeys }: Cell) =>
  `${movement ? "at least " : ""}${shown(kept_percent, 1)}% kept${obeys ? "" : ", custom"}`;

const following = (done: number | null) =>
  done === null ? "no subject to follow found" : `analysing movement, ${done}%`;

/** All that the board knows of a framing; beside its picture on hover and focus, and for who hears the page. */
export function CellDetails({ cell, rendered, analysed }: Known) {
  const lines = [
    placed(cell),
    cell.movement,
    kept(cell),
    cell.unsolved ? following(analysed) : "",
    rendered,
    ...cell.concerns.map(({ summary }) => summary),
  ].filter(Boolean);
  return (
    <span className="cell-details">
      {lines.map((line) => (
        <span key={line} className="block first-letter:uppercase">
          {line}
        </span>
      ))}
    </span>
  );
}
