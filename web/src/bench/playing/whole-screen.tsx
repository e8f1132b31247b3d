import { useEffect, useRef, useState } from "react";
import type { Frame } from "../../api/client";
import { aspectOf } from "../../frames/aspect";
import { timecode } from "../timecode";
import { useFrame, useSpeed } from "../use-transport";
import { Composed, type ComposedProps } from "../well/composed";
import { useSize } from "../well/use-size";
import { type ScreenBox, screenPx } from "../well/view";

type Props = Omit<ComposedProps, "box" | "compared"> & { onClose: () => void };

/** Nothing but the finished frame, as large as the screen. */
export function WholeScreen({ onClose, ...composed }: Props) {
  const place = useRef<HTMLElement>(null);
  const size = useSize(place);
  const frame = useFrame(composed.transport);
  const speed = useSpeed(composed.transport);
  const close = useRef(onClose);
  close.current = onClose;
  useEffect(() => {
    const left = () => document.fullscreenElement || close.current();
    document.addEventListener("fullscreenchange", left);
    // Where the browser does not allow it, the window's own size does.
    place.current?.requestFullscreen().catch(() => undefined);
    return () => {
      document.removeEventListener("fullscreenchange", left);
      if (document.fullscreenElement) document.exitFullscreen();
    };
  }, []);
  return (
    <section ref={place} aria-label="Full screen" className="fixed inset-0 z-50 bg-black">
      {size.width > 0 && <Composed {...composed} compared={false} box={fitted(size, composed.plan.frame)} />}
      <p className="num absolute right-3 bottom-3 flex items-center gap-4 text-chalk">
        {timecode(frame, composed.footage.timing.rate)}
        <button type="button" className="min-h-11 min-w-11 underline" onClick={composed.transport.toggle}>
          {speed ? "Stop" : "Play"}
        </button>
        <button type="button" className="min-h-11 min-w-11 underline" onClick={onClose}>
          Back (F)
        </button>
      </p>
    </section>
  );
}

function fitted({ width, height }: { width: number; height: number }, frame: Frame): ScreenBox {
  const aspect = aspectOf(frame);
  const wide = Math.min(width, height * aspect);
  const tall = wide / aspect;
  return {
    x: screenPx((width - wide) / 2),
    y: screenPx((height - tall) / 2),
    width: screenPx(wide),
    height: screenPx(tall),
  };
}

/** Whether the whole screen is used, and its key. */
export function useWholeScreen(allowed: boolean): [boolean, (on: boolean) => void] {
  const [on, setOn] = useState(false);
  useEffect(() => {
    if (!allowed) setOn(false);
  }, [allowed]);
  return [on && allowed, setOn];
}
