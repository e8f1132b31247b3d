import { expect, test } from "vitest";
import { Newest } from "./newest";

/** A server whose answers are given by hand, in any order. */
function server(atOnce: number) {
  const open: { question: number; answer: (given: string) => void; fail: (error: Error) => void }[] = [];
  const taken: unknown[] = [];
  const newest = new Newest<number, string>(
    (question) => new Promise((answer, fail) => open.push({ question, answer, fail })),
    (question, answer, error) => taken.push([question, answer ?? (error as Error).message]),
    atOnce,
  );
  const settled = () => new Promise((resolve) => setTimeout(resolve));
  return { newest, open, taken, settled };
}

test("of the questions that come while one is on its way only the newest is asked", async () => {
  const { newest, open, taken, settled } = server(1);
  for (const question of [1, 2, 3, 4]) newest.ask(question);
  expect(open.map(({ question }) => question)).toEqual([1]);
  open[0]?.answer("one");
  await settled();
  expect(open.map(({ question }) => question)).toEqual([1, 4]);
  open[1]?.fail(new Error("refused"));
  await settled();
  expect(taken).toEqual([
    [1, "one"],
    [4, "refused"],
  ]);
});

test("an answer that a newer one has overtaken is dropped", async () => {
  const { newest, open, taken, settled } = server(2);
  newest.ask(1);
  newest.ask(2);
  open[1]?.answer("two");
  await settled();
  open[0]?.answer("one");
  await settled();
  expect(taken).toEqual([[2, "two"]]);
});

test("after dropping, nothing that was asked before is taken in", async () => {
  const { newest, open, taken, settled } = server(1);
  newest.ask(1);
  newest.ask(2);
  newest.drop();
  open[0]?.answer("one");
  await settled();
  expect(taken).toEqual([]);
  newest.ask(3);
  open[1]?.answer("three");
  await settled();
  expect(taken).toEqual([[3, "three"]]);
});
