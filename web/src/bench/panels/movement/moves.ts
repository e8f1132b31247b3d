import type { Motion } from "../../../api/client";
import type { Choices } from "../../../api/use-choices";

type Move = Motion["move"];

/** What a move is called among those that are offered: by its way, or by whether it goes in or out. */
export const nameOf = (moves: Choices["moves"], move: Move): string =>
  moves.find((one) => wayOf(one.move) === wayOf(move))?.name ?? "";

function wayOf(move: Move): string {
  if (!move) return "";
  return move.kind === "push" ? (move.percent.startsWith("-") ? "out" : "in") : move.way;
}

/** The move of a name; of the one before it the speed curve stays, how far it pushes, and whether it goes beyond. */
export function moveNamed(moves: Choices["moves"], name: string, before: Move): Move {
  const begun = moves.find((one) => one.name === name)?.move ?? null;
  if (!begun || !before) return begun;
  const { ease } = before;
  if (begun.kind !== "push")
    return { ...begun, ease, beyond: before.kind === "push" ? begun.beyond : before.beyond };
  if (before.kind !== "push") return { ...begun, ease };
  const amount = before.percent.replace("-", "");
  return { ...begun, ease, percent: begun.percent.startsWith("-") ? `-${amount}` : amount };
}
