import { describe, expect, it } from "vitest";
import { droppedFiles, footageAmong } from "./dropped";

const file = (name: string, type = "video/mp4") => new File(["x"], name, { type });
const fileEntry = (name: string, type?: string) => ({
  name,
  isFile: true,
  isDirectory: false,
  file: (done: (one: File) => void) => done(file(name, type)),
});
function folder(name: string, inside: unknown[]) {
  return {
    name,
    isFile: false,
    isDirectory: true,
    createReader: () => {
      // As browsers do: some of them, the rest, and then none.
      const portions = [inside.slice(0, 1), inside.slice(1), []];
      return { readEntries: (done: (some: unknown[]) => void) => done(portions.shift() ?? []) };
    },
  };
}
const dropped = (...entries: { name: string; isDirectory: boolean }[]) =>
  ({
    items: [
      ...entries.map((entry) => ({
        kind: "file",
        webkitGetAsEntry: () => entry,
        getAsFile: () => file(entry.name),
      })),
      { kind: "string" },
    ],
  }) as unknown as DataTransfer;

const names = ({ files }: { files: File[] }) => files.map(({ name }) => name);

describe("files dropped on the page", () => {
  it("is files as they come", async () => {
    const { files, folder: named } = await droppedFiles(dropped(fileEntry("b.mov"), fileEntry("a.mov")));
    expect([names({ files }), named]).toEqual([["b.mov", "a.mov"], null]);
  });

  it("is the footage of folders, by name, and of the folders in them", async () => {
    const inner = folder("cards", [fileEntry("z.mxf", "")]);
    const outer = folder("Day 2", [
      fileEntry("clip10.mov"),
      fileEntry("clip9.mov"),
      fileEntry("notes.txt", "text/plain"),
      fileEntry(".hidden", ""),
      inner,
    ]);
    const found = await droppedFiles(dropped(outer));
    expect([names(found), found.folder]).toEqual([["clip9.mov", "clip10.mov", "z.mxf"], "Day 2"]);
  });

  it("goes only so deep", async () => {
    let deep = folder("deepest", [fileEntry("never.mov")]);
    for (let level = 0; level < 5; level++) deep = folder(`level ${level}`, [deep]);
    expect(names(await droppedFiles(dropped(deep)))).toEqual([]);
  });
});

it("excludes files that are certainly of another kind", () => {
  const given = [file("a.pdf", "application/pdf"), file("b.mts", ""), file("c.png", "image/png")];
  expect(footageAmong(given).map(({ name }) => name)).toEqual(["b.mts", "c.png"]);
});
