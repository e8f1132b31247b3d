import { type KeyboardEvent, type PointerEvent, useEffect, useRef, useState } from "react";
import { answered, api, type Plan, type Window } from "../../api/client";
import { toNumber } from "../../api/exact";
import type { Changer } from "../use-framing";
import { type Point, pointOnScreen, type View } from "./view";
import { moved, resized } from "./window";

type Grab = { x: number; y: number; window: Window; middle: Point | null; last: Window };
const SMALLEST = 0.02;
const ARROWS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** Moving and sizing the window on the source; the server says which placement opens it. */
export function useWindow(framingId: number, view: View, origin: Point, changer: Changer) {
  const { plan, measure, change, commit } = changer;
  const grab = useRef<Grab | null>(null);
  const asked = useRef(0);
  const [held, setHeld] = useState<Window | null>(null);
  const shown = held ?? measure.window;
  const { x, y, height } = measure.window;

  // What the hand has set stands until the numbers have caught up with it.
  // biome-ignore lint/correctness/useExhaustiveDependencies: the numbers are what is waited for
  useEffect(() => {
    if (!grab.current) setHeld(null);
  }, [x, y, height]);

  async function open(window: Window, then: (plan: Plan) => void) {
    const number = ++asked.current;
    const wanted = await answered(
      api.POST("/api/framings/{framing_id}/window", {
        params: { path: { framing_id: framingId } },
        body: { plan, window },
      }),
    );
    if (number === asked.current) then(wanted);
  }

  function begin(event: PointerEvent, sizing: boolean) {
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    const window = shown;
    const middle = pointOnScreen(view, {
      x: origin.x + toNumber(window.x),
      y: origin.y + toNumber(window.y),
    });
    const box = (
      (event.currentTarget as SVGElement).ownerSVGElement ?? event.currentTarget
    ).getBoundingClientRect();
    grab.current = {
      x: event.clientX,
      y: event.clientY,
      window,
      middle: sizing ? { x: box.left + middle.x, y: box.top + middle.y } : null,
      last: window,
    };
  }

  function onPointerMove(event: PointerEvent) {
    const held = grab.current;
    if (!held) return;
    held.last = dragged(held, event, view);
    setHeld(held.last);
    open(held.last, change);
  }

  function onPointerUp() {
    const held = grab.current;
    grab.current = null;
    if (!held || held.last === held.window) return;
    open(held.last, (wanted) => commit(wanted, held.middle ? "Window sized" : "Window moved"));
  }

  function onKeyDown(event: KeyboardEvent) {
    const way = ARROWS[event.key];
    if (!way) return;
    event.preventDefault();
    const by = event.shiftKey ? 10 : 1;
    open(moved(shown, way[0] * by, way[1] * by), (wanted) => commit(wanted, "Window moved"));
  }

  return {
    window: shown,
    move: {
      onPointerDown: (event: PointerEvent<SVGElement>) => begin(event, false),
      onPointerMove,
      onPointerUp,
      onPointerCancel: onPointerUp,
    },
    size: {
      onPointerDown: (event: PointerEvent<SVGElement>) => begin(event, true),
      onPointerMove,
      onPointerUp,
      onPointerCancel: onPointerUp,
    },
    onKeyDown,
  };
}

function dragged({ x, y, window, middle }: Grab, event: PointerEvent, view: View): Window {
  if (!middle) return moved(window, (event.clientX - x) / view.across, (event.clientY - y) / view.down);
  const before = Math.hypot(x - middle.x, y - middle.y);
  const after = Math.hypot(event.clientX - middle.x, event.clientY - middle.y);
  return resized(window, Math.max(SMALLEST, after / Math.max(before, 1)));
}
