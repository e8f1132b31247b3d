import { expect, test } from "vitest";
import { MOVES, moveNamed, nameOf } from "./moves";

test("every move that is offered is the one of its name", () => {
  for (const { value } of MOVES) expect(nameOf(moveNamed(value, null))).toBe(value);
});

test("how far and how it goes stay when the way changes", () => {
  const far = { kind: "push", percent: "12", ease: "even" } as const;
  expect(moveNamed("out", far)).toEqual({ kind: "push", percent: "-12", ease: "even" });
  expect(moveNamed("left_right", far)).toMatchObject({ ease: "even", beyond: false });
});
