import { Button } from "../ui/button";
import { useEscape } from "../ui/use-escape";
import { useBench } from "./state/use-bench";

/** Asks which keyframes a placement changes that was set by hand between them. */
export function KeyframeQuestion() {
  const { trial, editing, setKey, viewerEdits } = useBench("trial", "editing", "setKey", "viewerEdits");
  const asks = trial?.placement != null && !editing;
  useEscape(() => {
    if (asks) viewerEdits.abandon();
    return asks;
  });
  if (!asks) return null;
  return (
    <section
      aria-label="Which keyframes to change"
      className="absolute top-3 left-1/2 z-20 grid -translate-x-1/2 gap-2 rounded border border-rule bg-paper p-3 shadow"
    >
      <p>This shot is keyframed. Change:</p>
      <div className="flex gap-2">
        <Button look="main" onClick={() => setKey("key")}>
          New keyframe here
        </Button>
        <Button onClick={() => setKey("nearest")}>Nearest keyframe</Button>
        <Button onClick={() => setKey("shift")}>All keyframes</Button>
        <Button look="quiet" onClick={viewerEdits.abandon}>
          Cancel
        </Button>
      </div>
    </section>
  );
}
