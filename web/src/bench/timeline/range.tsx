import { Button } from "../../ui/button";
import { useBench } from "../state/use-bench";
import { timecode } from "../timecode";
import { useRange } from "../use-range";

const KEYS = { first: "I", last: "O" };

/** The parts outside the in and out points, dimmed. */
export function OutsideRange() {
  const { footage } = useBench("footage");
  const { marks, isPart } = useRange();
  const { frames } = footage.timing;
  if (!isPart) return null;
  const before = (marks.first / frames) * 100;
  const behind = 100 - ((marks.last + 1) / frames) * 100;
  const edge = "pointer-events-none absolute inset-y-0 bg-paper/80";
  return (
    <>
      <div
        className={`${edge} left-0 border-r-2 border-ink`}
        style={{ width: `${before}%` }}
        aria-hidden="true"
      />
      <div
        className={`${edge} right-0 border-l-2 border-ink`}
        style={{ width: `${behind}%` }}
        aria-hidden="true"
      />
    </>
  );
}

/** The part of the clip that is delivered, and its marks. */
export function Range() {
  const { transport, rate } = useBench("transport", "rate");
  const { marks, isPart, mark, clear } = useRange();
  return (
    <section className="grid w-56 shrink-0 gap-0.5" aria-label="Range">
      <div className="num flex gap-1">
        {(["first", "last"] as const).map((end) => (
          <Button
            key={end}
            className="grow px-1.5! py-0.5! font-normal!"
            title={`${end === "first" ? "In" : "Out"} point (${KEYS[end]})`}
            onClick={() => mark({ [end]: transport.frame })}
          >
            {KEYS[end]} {timecode(marks[end], rate)}
          </Button>
        ))}
      </div>
      <p className="num flex text-soft" data-testid="range">
        <span className="grow">{timecode(marks.last - marks.first + 1, rate)}</span>
        {isPart ? (
          <Button look="link" onClick={clear}>
            whole clip
          </Button>
        ) : (
          "whole clip"
        )}
      </p>
    </section>
  );
}
