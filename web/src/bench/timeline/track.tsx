import { type ReactNode, useEffect, useLayoutEffect, useRef } from "react";
import { useKeys } from "../../ui/keyboard";
import { useBench, useFrame } from "../state/use-bench";

const MOST = 64;
/** Distance of the playhead from the edge of the visible part, as a fraction of it, at which the timeline scrolls. */
const NEAR = 0.05;

type Props = {
  zoom: number;
  onZoom: (zoom: number) => void;
  children: ReactNode;
};

/** The timeline in a window that scrolls when zoomed. */
export function Track({ zoom, onZoom, children }: Props) {
  const { footage } = useBench("footage");
  const place = useRef<HTMLDivElement>(null);
  const part = useFrame() / Math.max(1, footage.timing.frames - 1);
  /** The point that keeps its position when the zoom changes: as a fraction of the clip, and its x in the window. */
  const held = useRef<{ part: number; x: number } | null>(null);
  const change = (by: number, at?: { part: number; x: number }) => {
    held.current = at ?? null;
    onZoom(Math.min(MOST, Math.max(1, zoom * by)));
  };
  useKeys([
    { keys: "+", does: "Zoom in on the timeline", act: () => change(2) },
    { keys: "-", does: "Zoom out of the timeline", act: () => change(0.5) },
  ]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: it is put in place when the zoom changes
  useLayoutEffect(() => {
    const window = place.current;
    if (!window) return;
    const width = window.clientWidth;
    const at = held.current ?? { part, x: width / 2 };
    held.current = null;
    window.scrollLeft = at.part * width * zoom - at.x;
  }, [zoom]);
  useEffect(() => {
    const window = place.current;
    if (!window || zoom === 1) return;
    const [x, width] = [part * window.scrollWidth - window.scrollLeft, window.clientWidth];
    if (x < 0 || x > width * (1 - NEAR)) window.scrollLeft += x - width * NEAR;
  }, [part, zoom]);
  useEffect(() => {
    const window = place.current;
    function onWheel(event: WheelEvent) {
      if (!window || !event.ctrlKey) return;
      event.preventDefault();
      const x = event.clientX - window.getBoundingClientRect().left;
      change(event.deltaY < 0 ? 2 : 0.5, { part: (window.scrollLeft + x) / window.scrollWidth, x });
    }
    window?.addEventListener("wheel", onWheel, { passive: false });
    return () => window?.removeEventListener("wheel", onWheel);
  });
  return (
    <div ref={place} data-testid="track" className="overflow-x-auto overflow-y-hidden pt-3 pb-1">
      <div style={{ width: `${zoom * 100}%` }}>{children}</div>
    </div>
  );
}
