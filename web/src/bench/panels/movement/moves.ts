import type { Motion } from "../../../api/client";

type Move = Motion["move"];

export const EASES = [
  { value: "smooth", title: "smoothly, at rest at both ends" },
  { value: "even", title: "evenly" },
] as const;

/** What can be done over the length of a shot, by a name of the page's own. */
export const MOVES = [
  { value: "", title: "Static" },
  { value: "in", title: "push in" },
  { value: "out", title: "push out" },
  { value: "left_right", title: "Pan left to right" },
  { value: "right_left", title: "Pan right to left" },
  { value: "up_down", title: "tilt down" },
  { value: "down_up", title: "tilt up" },
] as const;

export function nameOf(move: Move): string {
  if (!move) return "";
  if (move.kind === "push") return move.percent.startsWith("-") ? "out" : "in";
  return move.way;
}

/** The move of a name; of the one before it the ease stays, and how far it pushes. */
export function moveNamed(name: string, before: Move): Move {
  const ease = before?.ease ?? "smooth";
  if (!name) return null;
  if (name === "in" || name === "out") {
    const percent = before?.kind === "push" ? before.percent.replace("-", "") : "4";
    return { kind: "push", percent: name === "in" ? percent : `-${percent}`, ease };
  }
  const beyond = before && before.kind !== "push" ? before.beyond : false;
  if (name === "left_right" || name === "right_left") return { kind: "pan", way: name, ease, beyond };
  return { kind: "tilt", way: name as "up_down" | "down_up", ease, beyond };
}
