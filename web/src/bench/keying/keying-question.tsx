import { Button } from "../../ui/button";
import { ProblemNote } from "../../ui/problem-note";
import { useEscape } from "../../ui/use-escape";
import type { Keying } from "./use-keying";

/** Asks, once, where a placement shall go that was set between keys. */
export function KeyingQuestion({ keying: { asks, answer, cancel, error } }: { keying: Keying }) {
  useEscape(() => {
    if (asks) cancel();
    return asks;
  });
  if (!asks) return <ProblemNote error={error} />;
  return (
    <section
      aria-label="Where it shall go"
      className="absolute top-3 left-1/2 z-20 grid -translate-x-1/2 gap-2 rounded border border-rule bg-paper p-3 shadow"
    >
      <p>Keys hold this placement. What is it to change?</p>
      <div className="flex gap-2">
        <Button look="main" onClick={() => answer("key")}>
          A new key here
        </Button>
        <Button onClick={() => answer("nearest")}>The nearest key</Button>
        <Button onClick={() => answer("shift")}>All keys</Button>
        <Button look="quiet" onClick={cancel}>
          Nothing
        </Button>
      </div>
    </section>
  );
}
