import { type KeyboardEvent, type PointerEvent, useRef } from "react";
import type { Footage } from "../api/client";
import { shown } from "../api/exact";
import { Button } from "../ui/button";
import { timecode } from "./timecode";
import type { RangeOf } from "./use-range";
import { type Transport, useFrame, useSpeed } from "./use-transport";

const MOST_MOMENTS = 48;
const STRIP_WIDTH = 960;
const STRIP_HEIGHT = 64;
const KEYS = { first: "I", last: "O" };

type Props = { footage: Footage; aspect: number; transport: Transport; range: RangeOf };

/** Time along the bottom: the clip as a strip of its own pictures, and where we are in it. */
export function Timeline({ footage, aspect, transport, range }: Props) {
  const { go, step, toggle } = transport;
  const frame = useFrame(transport);
  const speed = useSpeed(transport);
  const { frames, rate } = footage.timing;
  const last = Math.max(1, frames - 1);
  const played = useRef(0);

  function scrub(event: PointerEvent<HTMLElement>) {
    if (event.type === "pointerdown") {
      event.currentTarget.setPointerCapture(event.pointerId);
      played.current = speed;
      transport.stop();
    } else if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
    const box = event.currentTarget.getBoundingClientRect();
    go(((event.clientX - box.left) / box.width) * last);
  }

  /** Let go: what played goes on from there. */
  function letGo() {
    if (played.current) transport.play(played.current);
    played.current = 0;
  }

  function onKeyDown(event: KeyboardEvent) {
    const end = { Home: 0, End: last }[event.key];
    if (end !== undefined) {
      event.preventDefault();
      go(end);
    }
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (!by) return;
    event.preventDefault();
    step(by * (event.shiftKey ? 10 : 1));
  }

  return (
    <footer className="flex h-[104px] shrink-0 items-center gap-4 border-t border-rule px-4">
      <div className="w-32 shrink-0">
        <p className="font-mono text-[17px]" data-testid="timecode">
          {timecode(frame, rate)}
        </p>
        <p className="num text-soft">of {timecode(frames, rate)}</p>
        <p className="num text-soft">{shown(rate, 3)} fps</p>
      </div>
      <Button
        look="plain"
        className="w-20 shrink-0"
        onClick={toggle}
        title="Space. J and L play backwards and forwards."
      >
        {speed ? (speed === 1 ? "Stop" : `Stop ${speed}×`) : "Play"}
      </Button>
      <div
        role="slider"
        tabIndex={0}
        aria-label="Moment"
        aria-valuemin={0}
        aria-valuemax={frames - 1}
        aria-valuenow={frame}
        aria-valuetext={timecode(frame, rate)}
        className="relative h-16 min-w-0 grow cursor-ew-resize touch-none"
        onPointerDown={scrub}
        onPointerMove={scrub}
        onPointerUp={letGo}
        onKeyDown={onKeyDown}
      >
        <img
          alt=""
          draggable={false}
          className="h-full w-full object-fill"
          src={`/api/footage/${footage.id}/strip?count=${moments(aspect)}&height=${STRIP_HEIGHT}&reading=${encodeURIComponent(JSON.stringify(footage.interpretation))}&stamp=${footage.stamp}`}
        />
        {range.part && <OutsideRange range={range} frames={frames} />}
        <div
          className="absolute -top-2 -bottom-2 w-0.5 bg-ochre"
          style={{ left: `${(frame / last) * 100}%` }}
          aria-hidden="true"
        >
          <span className="absolute -top-1 -left-1 h-2.5 w-2.5 bg-ochre [clip-path:polygon(0_0,100%_0,50%_100%)]" />
        </div>
      </div>
      <Range range={range} frame={frame} rate={rate} />
    </footer>
  );
}

/** What is left out before and behind the marks, dimmed. */
function OutsideRange({ range: { marks }, frames }: { range: RangeOf; frames: number }) {
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
function Range({ range, frame, rate }: { range: RangeOf; frame: number; rate: string }) {
  const { marks, part, mark, whole } = range;
  return (
    <section className="grid w-56 shrink-0 gap-0.5" aria-label="Range">
      <div className="num flex gap-1">
        {(["first", "last"] as const).map((end) => (
          <Button
            key={end}
            className="grow px-1.5! py-0.5! font-normal!"
            title={`The ${end} frame delivered (${KEYS[end]})`}
            onClick={() => mark({ [end]: frame })}
          >
            {KEYS[end]} {timecode(marks[end], rate)}
          </Button>
        ))}
      </div>
      <p className="num flex text-soft" data-testid="range">
        <span className="grow">{timecode(marks.last - marks.first + 1, rate)}</span>
        {part ? (
          <button type="button" className="text-ochre underline" onClick={whole}>
            whole clip
          </button>
        ) : (
          "whole clip"
        )}
      </p>
    </section>
  );
}

/** As many moments as fill the strip without squeezing them: more of an upright clip than of a wide one. */
function moments(aspect: number): number {
  return Math.min(MOST_MOMENTS, Math.max(4, Math.round(STRIP_WIDTH / (STRIP_HEIGHT * aspect))));
}
