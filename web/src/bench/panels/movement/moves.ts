import type { Motion } from "../../../api/client";
import type { Choices } from "../../../api/use-choices";

type Move = Motion["move"];

/** The name of a move in the list: by its direction. */
export const nameOf = (moves: Choices["moves"], move: Move): string =>
  moves.find((one) => wayOf(one.move) === wayOf(move))?.name ?? "";

function wayOf(move: Move): string {
  if (!move) return "";
  return move.kind === "push" ? (move.percent.startsWith("-") ? "out" : "in") : move.way;
}

/** The move of a name; of the one before it the speed curve stays, how far it pushes, and whether it goes beyond. */
export function moveNamed(moves: Choices["moves"], name: string, before: Move): Move {
  const first = moves.find((one) => one.name === name)?.move ?? null;
  if (!first || !before) return first;
  const { ease } = before;
  if (first.kind !== "push")
    return { ...first, ease, beyond: before.kind === "push" ? first.beyond : before.beyond };
  if (before.kind !== "push") return { ...first, ease };
  const amount = before.percent.replace("-", "");
  return { ...first, ease, percent: first.percent.startsWith("-") ? `-${amount}` : amount };
}
