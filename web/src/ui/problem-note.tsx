import { Button } from "./button";
import { Problem } from "./problem";

/** An error where it happened: what, to which clip, what to do next. */
export function ProblemNote({ error, onClose }: { error: unknown; onClose?: () => void }) {
  if (!error) return null;
  const problem =
    error instanceof Problem ? error : new Problem("Something went wrong.", "Load the page again.", null, 0);
  return (
    <div role="alert" className="flex gap-3 border-l-3 border-rust bg-sheet px-3 py-2">
      <p className="grow">
        {problem.clip && <span className="font-semibold">{problem.clip}: </span>}
        {problem.title} <span className="text-soft">{problem.remedy}</span>
      </p>
      {onClose && (
        <Button look="subtle" className="self-start" onClick={onClose}>
          Close
        </Button>
      )}
    </div>
  );
}
