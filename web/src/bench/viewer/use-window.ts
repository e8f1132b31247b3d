import { type KeyboardEvent, useEffect, useRef, useState } from "react";
import { api, type Design, unwrap, type Window } from "../../api/client";
import { arrowOf } from "../../ui/arrows";
import { toNumber } from "../../ui/exact";
import { Newest } from "../../ui/newest";
import { type At, useDragging } from "../../ui/use-dragging";
import { asked, taken } from "../editor/scope";
import { useBench, useBenchState } from "../state/use-bench";
import { type Point, pointOnScreen, type View } from "./view";
import { moved, resized } from "./window";

type Way = "move" | "size";
type Grab = At & { window: Window; middle: Point | null; last: Window };
const SMALLEST = 0.02;

/** A window that the placement shall show, and what the edit is called; no name while it is dragged. */
type Wanted = { window: Window; label: string | null };

/** Moving and sizing the window on the source; the server works out the placement that shows it. */
export function useWindow(view: View, origin: Point) {
  const { framingId, measure, measured } = useBench("framingId", "measure", "measured");
  const state = useBenchState();
  // False from the start of a drag until the server has answered.
  const settled = useRef(true);
  const [held, setHeld] = useState<Window | null>(null);
  const shown = held ?? measure.window;
  const latest = useRef(shown);
  latest.current = shown;
  // The dragged window stays until the numbers have caught up with it.
  // biome-ignore lint/correctness/useExhaustiveDependencies: it waits for the numbers
  useEffect(() => {
    if (settled.current && measured) setHeld(null);
  }, [measured, measure]);

  const send = ({ window }: Wanted) =>
    unwrap(
      api.POST("/api/framings/{framing_id}/window", {
        params: { path: { framing_id: framingId } },
        body: { ...asked(state().viewerPlan), window },
      }),
    );

  function take({ label }: Wanted, design: Design | null) {
    const { viewerPlan, viewerEdits } = state();
    if (label) settled.current = true;
    if (design && label) viewerEdits.commit(taken(viewerPlan, design), label);
    else if (design) viewerEdits.change(taken(viewerPlan, design));
    else if (label) {
      setHeld(null);
      viewerEdits.abandon();
    }
  }

  const [newest] = useState(() => new Newest(send, take));

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
      newest.ask({ window: grab.last, label: null });
    },
    end: ({ last, middle }) => newest.ask({ window: last, label: middle ? "Window sized" : "Window moved" }),
    cancel: () => {
      settled.current = true;
      newest.drop();
      setHeld(null);
      state().viewerEdits.abandon();
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
    newest.ask({ window: next, label: "Window moved" });
  }

  return { window: shown, move: drag("move"), size: drag("size"), onKeyDown };
}

function dragged({ x, y, window, middle }: Grab, at: At, view: View): Window {
  if (!middle) return moved(window, (at.x - x) / view.across, (at.y - y) / view.down);
  const before = Math.hypot(x - middle.x, y - middle.y);
  const after = Math.hypot(at.x - middle.x, at.y - middle.y);
  return resized(window, Math.max(SMALLEST, after / Math.max(before, 1)));
}
