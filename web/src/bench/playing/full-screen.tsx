import { useEffect, useRef } from "react";
import type { Frame } from "../../api/client";
import { aspectOf } from "../../frames/aspect";
import { useBench, useFrame, useSpeed } from "../state/use-bench";
import { timecode } from "../timecode";
import { Composed } from "../viewer/composed";
import { useSize } from "../viewer/use-size";
import { type ScreenBox, screenPx } from "../viewer/view";

/** Nothing but the finished frame, as large as the screen. */
export function FullScreen() {
  const { shownPlan, transport, rate, show } = useBench("shownPlan", "transport", "rate", "show");
  const place = useRef<HTMLElement>(null);
  const size = useSize(place);
  const frame = useFrame();
  const speed = useSpeed();
  const close = () => show({ fullScreen: false });
  useEffect(() => {
    const left = () => document.fullscreenElement || show({ fullScreen: false });
    document.addEventListener("fullscreenchange", left);
    // Where the browser does not allow it, the window's own size does.
    place.current?.requestFullscreen().catch(() => undefined);
    return () => {
      document.removeEventListener("fullscreenchange", left);
      if (document.fullscreenElement) document.exitFullscreen();
    };
  }, [show]);
  return (
    <section ref={place} aria-label="Full screen" className="fixed inset-0 z-50 bg-black">
      {size.width > 0 && <Composed plan={shownPlan} box={fitted(size, shownPlan.frame)} />}
      <p className="num absolute right-3 bottom-3 flex items-center gap-4 text-chalk">
        {timecode(frame, rate)}
        <button type="button" className="min-h-11 min-w-11 underline" onClick={transport.toggle}>
          {speed ? "Stop" : "Play"}
        </button>
        <button type="button" className="min-h-11 min-w-11 underline" onClick={close}>
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
