import { type KeyboardEvent, type PointerEvent, type ReactNode, useRef } from "react";
import { useBench, useFrame } from "../state/use-bench";
import { timecode } from "../timecode";

/** The playhead of a clip, to drag; playing resumes where it is released. */
export function Slider({ children }: { children: ReactNode }) {
  const { transport, footage, rate } = useBench("transport", "footage", "rate");
  const { go, step } = transport;
  const { frames } = footage.timing;
  const frame = useFrame();
  const last = Math.max(1, frames - 1);
  const played = useRef(0);

  function scrub(event: PointerEvent<HTMLElement>) {
    if (event.type === "pointerdown") {
      event.currentTarget.setPointerCapture(event.pointerId);
      played.current = transport.store.getState().speed;
      transport.stop();
    } else if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
    const box = event.currentTarget.getBoundingClientRect();
    go(((event.clientX - box.left) / box.width) * last);
  }

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
    <div
      role="slider"
      tabIndex={0}
      aria-label="Playhead"
      aria-valuemin={0}
      aria-valuemax={frames - 1}
      aria-valuenow={frame}
      aria-valuetext={timecode(frame, rate)}
      className="relative cursor-ew-resize touch-none"
      onPointerDown={scrub}
      onPointerMove={scrub}
      onPointerUp={letGo}
      onKeyDown={onKeyDown}
    >
      {children}
      <Playhead percent={(frame / last) * 100} />
    </div>
  );
}

const Playhead = ({ percent }: { percent: number }) => (
  <div
    data-testid="playhead"
    className="absolute -top-2 -bottom-2 w-0.5 bg-ochre"
    style={{ left: `${percent}%` }}
    aria-hidden="true"
  >
    <span className="absolute -top-1 -left-1 h-2.5 w-2.5 bg-ochre [clip-path:polygon(0_0,100%_0,50%_100%)]" />
  </div>
);
