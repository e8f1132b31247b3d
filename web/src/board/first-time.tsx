import type { Board } from "../api/client";
import { Button } from "../ui/button";
import { useKept } from "../ui/kept";

/** The next steps, for people who render here for the first time. */
export function FirstTime({ board, rendered }: { board: Board; rendered: boolean }) {
  const [hidden, setHidden] = useKept("first steps are known", false);
  if (hidden || rendered || board.footage.length === 0) return null;
  const changed = board.cells.some(({ obeys }) => !obeys);
  const steps = [
    { title: "Clips", next: "added", done: true },
    { title: "Frames", next: "add those that you must deliver", done: board.frames.length > 1 },
    { title: "Review", next: "select a cell to open it", done: changed },
    { title: "Files", next: "render all; each file is checked", done: false },
  ];
  const current = steps.findIndex(({ done }) => !done);
  return (
    <section
      aria-label="First steps"
      className="mb-4 flex flex-wrap items-baseline gap-x-6 gap-y-1 border-ochre border-l-3 bg-sheet px-4 py-2"
    >
      <ol className="flex grow flex-wrap gap-x-6 gap-y-1">
        {steps.map(({ title, next, done }, at) => (
          <li
            key={title}
            aria-current={at === current ? "step" : undefined}
            className={done ? "text-soft" : ""}
          >
            <span className="num mr-1.5 text-soft">{at + 1}</span>
            <span className={at === current ? "font-semibold" : ""}>{title}</span>
            {done ? (
              <span className="text-moss"> ✓</span>
            ) : (
              <span className={at === current ? "" : "text-soft"}>: {next}</span>
            )}
          </li>
        ))}
      </ol>
      <Button look="link" className="min-h-6" onClick={() => setHidden(true)}>
        Hide
      </Button>
    </section>
  );
}
