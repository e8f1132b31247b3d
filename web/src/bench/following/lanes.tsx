import { toNumber } from "../../ui/exact";
import { useBench } from "../state/use-bench";
import { frameAt, startOf, timecode } from "../timecode";
import { useMarks } from "../timeline/use-marks";
import { secondsOf } from "./follow";

const DOUBTFUL = 70;

/** The confidence second by second; uncertain parts are marked. */
export function SureLane({ seconds }: { seconds: number }) {
  const all = secondsOf(useBench("wholePlan").wholePlan);
  if (all.length === 0) return null;
  const worst = Math.min(...all.map(({ sure }) => sure));
  return (
    <div
      className="relative h-2 bg-sheet"
      data-lane="sure"
      role="img"
      aria-label={`How sure the window is: at its worst ${worst}%`}
    >
      {all.map(({ start, end, sure }) => (
        <span
          key={start}
          title={`${sure}% sure`}
          className={`absolute inset-y-0 ${sure < DOUBTFUL ? "bg-rust" : "bg-soft"}`}
          style={{
            left: `${(start / seconds) * 100}%`,
            width: `${((Math.min(end, seconds) - start) / seconds) * 100}%`,
            opacity: sure < DOUBTFUL ? 0.9 : 0.15 + 0.35 * (1 - sure / 100),
          }}
        />
      ))}
    </div>
  );
}

/** Pins: each can be dragged in time, moved by arrow keys, and removed by Delete. */
export function PinsLane({ last }: { last: number }) {
  const { rate, transport, plan, follow } = useBench("rate", "transport", "plan", "follow");
  const pins = plan.motion.follow?.pins ?? [];
  const frames = pins.map(({ time }) => frameAt(time, rate));
  const ordered = (given: typeof pins) =>
    given.toSorted((one, other) => toNumber(one.time) - toNumber(other.time));
  const marks = useMarks({
    frames,
    last,
    move: (index, frame) => {
      if (frames.includes(frame)) return;
      const moved = pins.map((pin, at) => (at === index ? { ...pin, time: startOf(frame, rate) } : pin));
      follow({ pins: ordered(moved) }, "Pin moved");
    },
    remove: (index) => follow({ pins: pins.filter((_, at) => at !== index) }, "Pin removed"),
  });
  if (pins.length === 0) return null;
  return (
    <div className="relative h-4 bg-sheet" data-lane="pins">
      {pins.map((pin, index) => (
        <button
          key={pin.time}
          type="button"
          aria-label={`Pin at ${timecode(frames[index] ?? 0, rate)}`}
          title="Drag, or arrow keys; Delete takes it away."
          className="grip absolute top-0.5 h-3 w-3 -translate-x-1/2 cursor-ew-resize touch-none rounded-full border border-ink bg-chalk"
          style={{ left: `${((frames[index] ?? 0) / last) * 100}%` }}
          onClick={() => transport.go(frames[index] ?? 0)}
          {...marks(index)}
        />
      ))}
    </div>
  );
}
