import { expect, it } from "vitest";
import { Pieces } from "./buffer";

const piece = (kind: number, ...data: number[]) => [kind, 0, 0, 0, data.length, ...data];

it("gives whole pieces, however the bytes come", () => {
  const bytes = new Uint8Array([...piece(0, 1, 2, 3), ...piece(1, 9), ...piece(0, 4)]);
  for (const size of [1, 3, 7, 100]) {
    const pieces = new Pieces();
    const found = [];
    for (let at = 0; at < bytes.length; at += size) found.push(...pieces.taken(bytes.slice(at, at + size)));
    expect(found.map(({ kind, data }) => [kind, ...data])).toEqual([
      ["picture", 1, 2, 3],
      ["sound", 9],
      ["picture", 4],
    ]);
  }
});
