import { useChoices } from "../../api/use-choices";
import { Button } from "../../ui/button";
import { ChoiceRow } from "../../ui/choice-row";
import { toExact, toNumber } from "../../ui/exact";
import { ProblemNote } from "../../ui/problem-note";
import { SliderRow } from "../../ui/slider-row";
import { Candidates } from "./candidates";
import { DrawnBoxes, Pins } from "./corrections";
import { Doubts } from "./doubts";
import type { FollowProps } from "./use-following";

/** A window that follows: how, whom, and where it may be wrong. */
export function FollowPart(props: FollowProps) {
  const { footage, plan, following, drawing, onDraw, shifting, onShift } = props;
  const { paces, aims } = useChoices();
  const { follow, solved, looking, refused, solve, busy, error } = following;
  if (!follow)
    return (
      <div className="grid gap-2">
        <ProblemNote error={error} />
        <Button
          look="main"
          disabled={busy || footage.info.kind !== "clip"}
          onClick={() => solve({}, "Follow")}
        >
          Follow subject
        </Button>
        {footage.info.kind !== "clip" && (
          <p className="text-soft">A still does not move. A slow push may do: choose one below.</p>
        )}
      </div>
    );
  const sizes = { low: 1, high: 3, step: 0.05, initial: 1, unit: "×" };
  return (
    <section aria-label="Following" className="grid gap-3">
      <ProblemNote error={error} />
      {looking && (
        <p role="status" className="border-l-3 border-ochre pl-3">
          Analysing movement … <span className="num">{looking.done_percent}%</span>. The window stands until
          then.
        </p>
      )}
      {refused && (
        <p role="status" className="border-l-3 border-rust pl-3">
          {refused.problem} {refused.remedy}
        </p>
      )}
      <fieldset className="grid grid-cols-[84px_1fr] items-center gap-2.5">
        <legend className="sr-only">Speed</legend>
        <span aria-hidden="true">Speed</span>
        <div className="flex">
          {paces.map(({ value, title }) => (
            <button
              key={value}
              type="button"
              aria-pressed={follow.pace === value}
              disabled={busy}
              className={`grow border border-rule px-2 py-1 ${follow.pace === value ? "bg-ink text-paper" : "bg-sheet hover:border-soft"}`}
              onClick={() => solve({ pace: value as typeof follow.pace }, `Speed: ${title}`)}
            >
              {title}
            </button>
          ))}
        </div>
      </fieldset>
      <ChoiceRow
        label="Window"
        value={follow.aim}
        choices={aims}
        onChange={(aim) => solve({ aim: aim as typeof follow.aim }, "Follow otherwise")}
      />
      <Candidates {...{ footage, plan, following }} />
      {solved && (
        <div className="flex flex-wrap gap-2">
          <Button disabled={busy} aria-pressed={drawing} onClick={() => onDraw(!drawing)}>
            {drawing ? "Draw round it on Source" : "Draw a box"}
          </Button>
          <Button
            aria-pressed={shifting}
            title="On: dragging shifts the whole path. Off: dragging adds a pin at the playhead"
            onClick={() => onShift(!shifting)}
          >
            Shift whole path
          </Button>
        </div>
      )}
      <DrawnBoxes {...props} />
      <Pins {...props} />
      <SliderRow
        label="Zoom in up to"
        {...sizes}
        value={toNumber(follow.closest)}
        onChange={() => undefined}
        onCommit={(value) => solve({ closest: toExact(value, 2) }, "How close")}
      />
      <SliderRow
        label="Zoom out up to"
        {...sizes}
        value={toNumber(follow.widest)}
        onChange={() => undefined}
        onCommit={(value) => solve({ widest: toExact(value, 2) }, "How wide")}
      />
      <Doubts {...props} />
      {solved && (
        <div className="flex flex-wrap items-center gap-2">
          <Button disabled={busy} onClick={following.giveToOthers}>
            Use in the other frames
          </Button>
          {following.given && (
            <span role="status" className="text-soft">
              given to {following.given.length} {following.given.length === 1 ? "frame" : "frames"}
            </span>
          )}
        </div>
      )}
    </section>
  );
}
