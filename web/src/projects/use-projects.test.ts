import { expect, test } from "vitest";
import { found, type ProjectLine } from "./use-projects";

const line = (id: number, name: string, created: string): ProjectLine => ({
  id,
  name,
  created,
  clips: 0,
  frames: 1,
  put_away: false,
  owner: "ida",
  role: "own",
  shared: 0,
  membership: null,
  framings: [],
  delivers: [],
  rendering: 0,
});
const all = [
  line(1, "Reel 10", "2026-01-02"),
  line(2, "Reel 2", "2026-01-03"),
  line(3, "Été au dépôt", "2026-01-01"),
];
const names = (search: string, order: Parameters<typeof found>[2]) =>
  found(all, search, order).map(({ name }) => name);

test("every word is looked for, in any order", () => {
  expect(names("2 reel", "newest")).toEqual(["Reel 2"]);
  expect(names("DÉPÔT", "newest")).toEqual(["Été au dépôt"]);
  expect(names("nothing", "newest")).toEqual([]);
});

test("names are put in order as people count", () => {
  expect(names("reel", "name")).toEqual(["Reel 2", "Reel 10"]);
  expect(names("", "oldest")[0]).toBe("Été au dépôt");
});
