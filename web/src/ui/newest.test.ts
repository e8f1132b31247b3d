import { expect, test } from "vitest";
import { Newest } from "./newest";

/** A server whose answers are given by hand, in any order. */
function server(atOnce: number, yields?: (question: number) => boolean) {
  const open: {
    question: number;
    signal: AbortSignal;
    answer: (given: string) => void;
    fail: (error: Error) => void;
  }[] = [];
  const taken: unknown[] = [];
  const newest = new Newest<number, string>(
    (question, signal) => new Promise((answer, fail) => open.push({ question, signal, answer, fail })),
    (question, answer, error) => taken.push([question, answer ?? (error as Error).message]),
    { atOnce, ...(yields && { yields }) },
  );
  const settled = () => new Promise((resolve) => setTimeout(resolve));
  return { newest, open, taken, settled };
}

test("while a request runs, only the newest later question is kept", async () => {
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
  expect(open[0]?.signal.aborted).toBe(true);
  open[0]?.answer("one");
  await settled();
  expect(taken).toEqual([]);
  newest.ask(3);
  open[1]?.answer("three");
  await settled();
  expect(taken).toEqual([[3, "three"]]);
});

test("a request that yields is cancelled for a newer question, and others are not", async () => {
  const { newest, open, taken, settled } = server(1, (question) => question > 10);
  newest.ask(11);
  newest.ask(1);
  expect(open.map(({ question, signal }) => [question, signal.aborted])).toEqual([
    [11, true],
    [1, false],
  ]);
  newest.ask(12);
  expect(open).toHaveLength(2);
  open[0]?.fail(new Error("aborted"));
  open[1]?.answer("one");
  await settled();
  open[2]?.answer("twelve");
  await settled();
  expect(taken).toEqual([
    [1, "one"],
    [12, "twelve"],
  ]);
});
