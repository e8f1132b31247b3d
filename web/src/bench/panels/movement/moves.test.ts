import { expect, test } from "vitest";
import type { Choices } from "../../../api/use-choices";
import { moveNamed, nameOf } from "./moves";

const MOVES: Choices["moves"] = [
  { name: "", title: "Static", move: null },
  { name: "in", title: "Push in", move: { kind: "push", percent: "4", ease: "smooth" } },
  { name: "out", title: "Push out", move: { kind: "push", percent: "-4", ease: "smooth" } },
  { name: "pan", title: "Pan", move: { kind: "pan", way: "left_right", ease: "smooth", beyond: false } },
];

test("every move that is offered is the one of its name", () => {
  for (const { name } of MOVES) expect(nameOf(MOVES, moveNamed(MOVES, name, null))).toBe(name);
});

test("how far and how it goes stay when the way changes", () => {
  const far = { kind: "push", percent: "12", ease: "even" } as const;
  expect(moveNamed(MOVES, "out", far)).toEqual({ kind: "push", percent: "-12", ease: "even" });
  expect(moveNamed(MOVES, "pan", far)).toMatchObject({ ease: "even", beyond: false });
});
