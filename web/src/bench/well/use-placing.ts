import { type KeyboardEvent, type PointerEvent, useEffect, useRef, useState } from "react";
import type { Measure, Plan } from "../../api/client";
import { toExact, toNumber } from "../../api/exact";
import type { Changer } from "../use-framing";
import type { View } from "./view";

const SNAP_SCREEN_PX = 7;
const PAUSE_MS = 450;
const WHEEL_STEP = 0.0008;
const MAX_TIGHTNESS = 8;

type Snapped = { says: string; line: string } | null;
type Grab = { x: number; y: number; offsetX: number; offsetY: number };

/** Placing the picture by hand: dragging, the wheel, the arrow keys. */
export function usePlacing(view: View, { plan, measure, change, commit }: Changer) {
  const grab = useRef<Grab | null>(null);
  const latest = useRef<Plan>(plan);
  const pause = useRef<ReturnType<typeof setTimeout>>(undefined);
  const [snapped, setSnapped] = useState<{ across: Snapped; down: Snapped }>({ across: null, down: null });
  latest.current = plan;
  useEffect(() => () => clearTimeout(pause.current), []);

  function placed(offsetX: string, offsetY: string): Plan {
    return {
      ...latest.current,
      placement: { ...latest.current.placement, offset_x: offsetX, offset_y: offsetY },
    };
  }

  /** Draw now, save once the hand rests. */
  function changeThenCommit(next: Plan, label: string) {
    latest.current = next;
    change(next);
    clearTimeout(pause.current);
    pause.current = setTimeout(() => commit(latest.current, label), PAUSE_MS);
  }

  function onPointerDown(event: PointerEvent) {
    if (event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    const { offset_x, offset_y } = plan.placement;
    grab.current = {
      x: event.clientX,
      y: event.clientY,
      offsetX: toNumber(offset_x),
      offsetY: toNumber(offset_y),
    };
  }

  function onPointerMove(event: PointerEvent) {
    if (!grab.current) return;
    const wantedX = grab.current.offsetX + (event.clientX - grab.current.x) / view.across;
    const wantedY = grab.current.offsetY + (event.clientY - grab.current.y) / view.down;
    const across = event.altKey ? null : nearest(measure.snaps_across, wantedX, SNAP_SCREEN_PX / view.across);
    const down = event.altKey ? null : nearest(measure.snaps_down, wantedY, SNAP_SCREEN_PX / view.down);
    setSnapped({ across, down });
    change(placed(across?.offset ?? toExact(wantedX, 2), down?.offset ?? toExact(wantedY, 2)));
  }

  function onPointerUp() {
    if (!grab.current) return;
    const { offsetX, offsetY } = grab.current;
    grab.current = null;
    setSnapped({ across: null, down: null });
    const { offset_x, offset_y } = latest.current.placement;
    if (toNumber(offset_x) !== offsetX || toNumber(offset_y) !== offsetY) commit(latest.current, "Moved");
  }

  function onWheel(event: WheelEvent) {
    event.preventDefault();
    const { placement } = latest.current;
    const now = placement.sizing === "tightness" ? placement.tightness : measure.tightness;
    const wanted = toNumber(now) - event.deltaY * WHEEL_STEP;
    const tightness = toExact(Math.min(MAX_TIGHTNESS, Math.max(0, wanted)), 3);
    changeThenCommit(
      { ...latest.current, placement: { ...placement, sizing: "tightness", tightness } },
      "Tightness",
    );
  }

  function onKeyDown(event: KeyboardEvent) {
    const ways: Record<string, [number, number]> = {
      ArrowLeft: [-1, 0],
      ArrowRight: [1, 0],
      ArrowUp: [0, -1],
      ArrowDown: [0, 1],
    };
    const way = ways[event.key];
    if (!way) return;
    event.preventDefault();
    const by = event.shiftKey ? 10 : 1;
    const { offset_x, offset_y } = latest.current.placement;
    const next = placed(toExact(toNumber(offset_x) + way[0] * by), toExact(toNumber(offset_y) + way[1] * by));
    changeThenCommit(next, "Nudged");
  }

  return {
    handlers: { onPointerDown, onPointerMove, onPointerUp, onPointerCancel: onPointerUp, onKeyDown },
    onWheel,
    snapped,
  };
}

function nearest(snaps: Measure["snaps_across"], wanted: number, reach: number) {
  const close = snaps.filter((snap) => Math.abs(toNumber(snap.offset) - wanted) <= reach);
  close.sort(
    (one, other) => Math.abs(toNumber(one.offset) - wanted) - Math.abs(toNumber(other.offset) - wanted),
  );
  return close[0] ?? null;
}
