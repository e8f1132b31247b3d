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
      aria-label="Which keyframes to change"
      className="absolute top-3 left-1/2 z-20 grid -translate-x-1/2 gap-2 rounded border border-rule bg-paper p-3 shadow"
    >
      <p>This shot is keyframed. Change:</p>
      <div className="flex gap-2">
        <Button look="main" onClick={() => answer("key")}>
          New keyframe here
        </Button>
        <Button onClick={() => answer("nearest")}>Nearest keyframe</Button>
        <Button onClick={() => answer("shift")}>All keyframes</Button>
        <Button look="quiet" onClick={cancel}>
          Cancel
        </Button>
      </div>
    </section>
  );
}
