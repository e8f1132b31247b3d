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
  const { shown, hold, release, latest } = useHeldWindow();
  const state = useBenchState();
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
      grab.last = dragged(grab, at, view);
      hold({ window: grab.last, label: null });
    },
    end: ({ last, middle }) => hold({ window: last, label: middle ? "Window sized" : "Window moved" }),
    cancel: () => {
      release();
      state().viewerEdits.abandon();
    },
  });

  function onKeyDown(event: KeyboardEvent) {
    const way = arrowOf(event);
    if (!way) return;
    event.preventDefault();
    hold({ window: moved(latest.current, way[0], way[1]), label: "Window moved" });
  }

  return { window: shown, move: drag("move"), size: drag("size"), onKeyDown };
}

/** The window on the source: the measured one, or a dragged one until the server has placed the picture for it. */
function useHeldWindow() {
  const { measure, measured } = useBench("measure", "measured");
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

  const newest = useRequests((label, placed) => {
    if (label) settled.current = true;
    if (label && !placed) setHeld(null);
  });
  function hold(wanted: Wanted) {
    settled.current = false;
    latest.current = wanted.window;
    setHeld(wanted.window);
    newest.ask(wanted);
  }

  function release() {
    settled.current = true;
    newest.drop();
    setHeld(null);
  }

  return { shown, latest, hold, release };
}

/** Requests for the placement that shows a window; answers are put into the edited plan. */
function useRequests(onAnswer: (label: string | null, placed: boolean) => void) {
  const { framingId } = useBench("framingId");
  const state = useBenchState();
  const send = ({ window }: Wanted) =>
    unwrap(
      api.POST("/api/framings/{framing_id}/window", {
        params: { path: { framing_id: framingId } },
        body: { ...asked(state().viewerPlan), window },
      }),
    );

  function take({ label }: Wanted, design: Design | null) {
    const { viewerPlan, viewerEdits } = state();
    onAnswer(label, design !== null);
    if (design && label) viewerEdits.commit(taken(viewerPlan, design), label);
    else if (design) viewerEdits.change(taken(viewerPlan, design));
    else if (label) viewerEdits.abandon();
  }

  const [newest] = useState(() => new Newest(send, take));
  return newest;
}

function dragged({ x, y, window, middle }: Grab, at: At, view: View): Window {
  if (!middle) return moved(window, (at.x - x) / view.across, (at.y - y) / view.down);
  const before = Math.hypot(x - middle.x, y - middle.y);
  const after = Math.hypot(at.x - middle.x, at.y - middle.y);
  return resized(window, Math.max(SMALLEST, after / Math.max(before, 1)));
}
