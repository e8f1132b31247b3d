import type { KeyboardEvent, PointerEvent } from "react";
import type { Footage } from "../api/client";
import { shown } from "../api/exact";
import { Button } from "../ui/button";
import { timecode } from "./timecode";
import type { Transport } from "./use-transport";

const MOST_MOMENTS = 48;
const STRIP_WIDTH = 960;
const STRIP_HEIGHT = 64;

type Props = { footage: Footage; aspect: number; transport: Transport };

/** Time along the bottom: the clip as a strip of its own pictures, and where we are in it. */
export function Timeline({ footage, aspect, transport }: Props) {
  const { frame, speed, go, step, toggle } = transport;
  const { frames, rate } = footage.timing;
  const last = Math.max(1, frames - 1);

  function scrub(event: PointerEvent<HTMLElement>) {
    if (event.type === "pointerdown") event.currentTarget.setPointerCapture(event.pointerId);
    else if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
    const box = event.currentTarget.getBoundingClientRect();
    transport.stop();
    go(((event.clientX - box.left) / box.width) * last);
  }

  function onKeyDown(event: KeyboardEvent) {
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
        className="w-16 shrink-0"
        onClick={toggle}
        title="Space. J and L play backwards and forwards."
      >
        {speed ? "Stop" : "Play"}
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
        onKeyDown={onKeyDown}
      >
        <img
          alt=""
          draggable={false}
          className="h-full w-full object-fill"
          src={`/api/footage/${footage.id}/strip?count=${moments(aspect)}&height=${STRIP_HEIGHT}&reading=${encodeURIComponent(JSON.stringify(footage.interpretation))}`}
        />
        <div
          className="absolute -top-2 -bottom-2 w-0.5 bg-ochre"
          style={{ left: `${(frame / last) * 100}%` }}
          aria-hidden="true"
        >
          <span className="absolute -top-1 -left-1 h-2.5 w-2.5 bg-ochre [clip-path:polygon(0_0,100%_0,50%_100%)]" />
        </div>
      </div>
      <p className="num w-14 shrink-0 text-soft">{speed ? `${speed}×` : ""}</p>
    </footer>
  );
}

/** As many moments as fill the strip without squeezing them: more of an upright clip than of a wide one. */
function moments(aspect: number): number {
  return Math.min(MOST_MOMENTS, Math.max(4, Math.round(STRIP_WIDTH / (STRIP_HEIGHT * aspect))));
}
