import type { Motion } from "../../api/client";
import { toNumber } from "../../ui/exact";
import { PinsLane, SureLane } from "../following/lanes";
import { ownOf } from "../shots/shots";
import { useCut } from "../shots/use-cut";
import { usePath } from "../shots/use-path";
import { useBench } from "../state/use-bench";
import { frameAt, startOf, timecode } from "../timecode";
import { Curve } from "./curve";
import { useMarks } from "./use-marks";

type Key = Motion["keys"][number];
const OWN = { placement: "P", motion: "M", surround: "S", finish: "F" };

/** Thin lanes above the strip: shots with their cuts, keyframes, pins, and the curve of a value. */
export function Lanes() {
  const { footage, rate, wholePlan, plan, following } = useBench(
    "footage",
    "rate",
    "wholePlan",
    "plan",
    "following",
  );
  const path = usePath();
  const last = Math.max(1, footage.timing.frames - 1);
  const seconds = last / toNumber(rate);
  const hasKeys = plan.motion.keys.length > 0;
  const moving = hasKeys || plan.motion.move !== null || following;
  if (wholePlan.shots.length === 0 && !moving) return null;
  return (
    <div className="relative grid gap-1 pb-2" data-testid="lanes">
      {wholePlan.shots.length > 0 && <ShotsLane last={last} />}
      {hasKeys && <KeysLane last={last} />}
      {following && <PinsLane last={last} />}
      {moving && <Curve path={path} seconds={seconds} />}
      <SureLane seconds={seconds} />
    </div>
  );
}

const leftOf = (frame: number, last: number) => `${(frame / last) * 100}%`;

function ShotsLane({ last }: { last: number }) {
  const {
    rate,
    transport,
    wholePlan: whole,
    shot: number,
  } = useBench("rate", "transport", "wholePlan", "shot");
  const cut = useCut();
  const starts = whole.shots.map(({ start }) => frameAt(start, rate));
  const ends = [...starts.slice(1), last];
  const marks = useMarks({
    frames: starts,
    last,
    move: (index, frame) => cut({ do: "move", number: index, time: startOf(frame, rate) }),
    remove: (index) => cut({ do: "join", number: index }),
  });

  return (
    <div className="relative h-4" data-lane="shots">
      {starts.map((start, shot) => {
        const own = ownOf(whole.shots[shot]);
        return (
          <button
            // biome-ignore lint/suspicious/noArrayIndexKey: a shot is its place among them
            key={shot}
            type="button"
            aria-label={`Shot ${shot + 1}`}
            aria-pressed={shot === number}
            title={own.length ? `Custom: ${own.join(", ")}` : "Same as whole clip"}
            className={`num absolute inset-y-0 overflow-hidden border-r border-paper px-1 text-left text-[10px] leading-4 ${shot === number ? "bg-ochre text-paper" : "bg-rule text-ink hover:bg-soft/40"}`}
            style={{ left: leftOf(start, last), width: leftOf((ends[shot] ?? last) - start, last) }}
            onClick={() => transport.go(start)}
          >
            {shot + 1} {own.map((part) => OWN[part]).join("")}
          </button>
        );
      })}
      {starts.slice(1).map((start, index) => (
        <span
          // biome-ignore lint/suspicious/noArrayIndexKey: a cut is its place among them
          key={index}
          role="slider"
          tabIndex={0}
          aria-label={`Cut before shot ${index + 2}`}
          aria-valuemin={starts[index] ?? 0}
          aria-valuemax={ends[index + 1] ?? last}
          aria-valuenow={start}
          aria-valuetext={timecode(start, rate)}
          title="Drag, or arrow keys; Delete joins the two"
          className="grip absolute -inset-y-1 w-2 -translate-x-1/2 cursor-ew-resize touch-none after:absolute after:inset-y-0 after:left-[3px] after:w-0.5 after:bg-ink"
          style={{ left: leftOf(start, last) }}
          {...marks(index + 1)}
        />
      ))}
    </div>
  );
}

function KeysLane({ last }: { last: number }) {
  const { rate, transport, plan, commit } = useBench("rate", "transport", "plan", "commit");
  const { motion } = plan;
  const frames = motion.keys.map(({ time }) => frameAt(time, rate));
  const put = (keys: Key[], label: string) => {
    const ordered = keys.toSorted((one, other) => toNumber(one.time) - toNumber(other.time));
    commit({ ...plan, motion: { ...motion, keys: ordered } }, label);
  };

  function moveTo(index: number, to: number, copy: boolean) {
    const held = motion.keys[index];
    if (!held || frames.some((other, at) => other === to && (copy || at !== index))) return;
    const moved = { ...held, time: startOf(to, rate) };
    const others = copy ? motion.keys : motion.keys.filter((_, at) => at !== index);
    put([...others, moved], copy ? "Key copied" : "Key moved");
  }

  const marks = useMarks({
    frames,
    last,
    move: moveTo,
    remove: (index) =>
      put(
        motion.keys.filter((_, at) => at !== index),
        "Key removed",
      ),
  });

  return (
    <div className="relative h-4 bg-sheet" data-lane="keys">
      {motion.keys.map((key, index) => (
        <button
          key={key.time}
          type="button"
          aria-label={`Keyframe at ${timecode(frames[index] ?? 0, rate)}`}
          title={`${valuesOf(key)}. Drag, or arrow keys; with Alt a copy; Delete removes it.`}
          className="grip absolute top-0.5 h-3 min-h-3 w-3 -translate-x-1/2 rotate-45 cursor-ew-resize touch-none border border-ink bg-ochre"
          style={{ left: leftOf(frames[index] ?? 0, last) }}
          onClick={() => transport.go(frames[index] ?? 0)}
          {...marks(index)}
        />
      ))}
    </div>
  );
}

function valuesOf({ x, y, tightness, angle, ease }: Key): string {
  const percent = (value: string) => `${(toNumber(value) * 100).toFixed(1)}%`;
  return [
    x != null && y != null && `at ${percent(x)}, ${percent(y)}`,
    tightness != null && `tightness ${percent(tightness)}`,
    angle != null && toNumber(angle) !== 0 && `turned ${toNumber(angle).toFixed(1)}°`,
    ease,
  ]
    .filter(Boolean)
    .join(", ");
}
