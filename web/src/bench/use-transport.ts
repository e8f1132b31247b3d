import { useCallback, useEffect, useRef, useState } from "react";
import { toNumber } from "../api/exact";

const FASTEST = 8;

/** Where in the clip we are, and playing: at a speed of 0 it stands, 1 plays, -2 plays backwards twice as fast. */
export function useTransport(frames: number, rate: string) {
  const [frame, setFrame] = useState(Math.floor(frames / 2));
  const [speed, setSpeed] = useState(0);
  const exact = useRef(frame);

  const go = useCallback(
    (to: number) => {
      const within = Math.min(frames - 1, Math.max(0, Math.round(to)));
      exact.current = within;
      setFrame(within);
    },
    [frames],
  );

  useEffect(() => {
    if (speed === 0) return;
    let before = performance.now();
    let request = requestAnimationFrame(function advance(now) {
      exact.current += ((now - before) / 1000) * toNumber(rate) * speed;
      before = now;
      // Playing goes round, so that a short clip can be watched.
      exact.current = ((exact.current % frames) + frames) % frames;
      setFrame(Math.floor(exact.current));
      request = requestAnimationFrame(advance);
    });
    return () => cancelAnimationFrame(request);
  }, [speed, rate, frames]);

  const step = useCallback(
    (by: number) => {
      setSpeed(0);
      go(Math.floor(exact.current) + by);
    },
    [go],
  );
  const toggle = useCallback(() => setSpeed((now) => (now ? 0 : 1)), []);
  const faster = useCallback(
    (way: 1 | -1) => setSpeed((now) => (now * way > 0 ? Math.min(FASTEST, Math.abs(now) * 2) * way : way)),
    [],
  );
  const stop = useCallback(() => setSpeed(0), []);

  return { frame, speed, go, step, toggle, faster, stop };
}

export type Transport = ReturnType<typeof useTransport>;
