import { type KeyboardEvent, useEffect, useRef, useState } from "react";
import { api, type Design, unwrap, type Window } from "../../api/client";
import { arrowOf } from "../../ui/arrows";
import { toNumber } from "../../ui/exact";
import { type At, useDragging } from "../../ui/use-dragging";
import { asked, taken } from "../editor/scope";
import { Coalesced, type Editing } from "../use-framing";
import { type Point, pointOnScreen, type View } from "./view";
import { moved, resized } from "./window";

type Way = "move" | "size";
type Grab = At & { window: Window; middle: Point | null; last: Window };
const SMALLEST = 0.02;

/** Moving and sizing the window on the source; the server says which placement opens it. */
export function useWindow(framingId: number, view: View, origin: Point, editing: Editing) {
  const { plan, measure, measured, change, commit, abandon } = editing;
  // False from the start of a drag until the server has said what it set.
  const settled = useRef(true);
  const [asker] = useState(() => new Coalesced());
  const [held, setHeld] = useState<Window | null>(null);
  const shown = held ?? measure.window;
  const latest = useRef(shown);
  latest.current = shown;
  // The dragged value stays until the numbers have caught up with it.
  // biome-ignore lint/correctness/useExhaustiveDependencies: it waits for the numbers
  useEffect(() => {
    if (settled.current && measured) setHeld(null);
  }, [measured, measure]);

  function open(window: Window, then: (design: Design | null) => void) {
    asker.ask(async (current) => {
      const design = await unwrap(
        api.POST("/api/framings/{framing_id}/window", {
          params: { path: { framing_id: framingId } },
          body: { ...asked(plan), window },
        }),
      ).catch(() => null);
      if (current()) then(design);
    });
  }

  function settle(window: Window, label: string) {
    open(window, (design) => {
      settled.current = true;
      if (design) return commit(taken(plan, design), label);
      setHeld(null);
      abandon();
    });
  }

  const drag = useDragging<Grab, Way>({
    begin: ({ x, y }, event, way) => {
      const window = latest.current;
      if (way === "move") return { x, y, window, middle: null, last: window };
      const middle = pointOnScreen(view, {
        x: origin.x + toNumber(window.x),
        y: origin.y + toNumber(window.y),
      });
      const target = event.target as SVGElement;
      const box = (target.ownerSVGElement ?? target).getBoundingClientRect();
      return { x, y, window, middle: { x: box.left + middle.x, y: box.top + middle.y }, last: window };
    },
    move: (grab, at) => {
      settled.current = false;
      grab.last = dragged(grab, at, view);
      setHeld(grab.last);
      open(grab.last, (design) => design && change(taken(plan, design)));
    },
    end: (grab) => settle(grab.last, grab.middle ? "Window sized" : "Window moved"),
    cancel: () => {
      settled.current = true;
      asker.drop();
      setHeld(null);
      abandon();
    },
  });

  function onKeyDown(event: KeyboardEvent) {
    const way = arrowOf(event);
    if (!way) return;
    event.preventDefault();
    const next = moved(latest.current, way[0], way[1]);
    latest.current = next;
    setHeld(next);
    settled.current = false;
    settle(next, "Window moved");
  }

  return { window: shown, move: drag("move"), size: drag("size"), onKeyDown };
}

function dragged({ x, y, window, middle }: Grab, at: At, view: View): Window {
  if (!middle) return moved(window, (at.x - x) / view.across, (at.y - y) / view.down);
  const before = Math.hypot(x - middle.x, y - middle.y);
  const after = Math.hypot(at.x - middle.x, at.y - middle.y);
  return resized(window, Math.max(SMALLEST, after / Math.max(before, 1)));
}
