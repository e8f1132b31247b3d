import { type KeyboardEvent, type RefObject, useState } from "react";
import type { Measure, Placement, Plan } from "../../api/client";
import { arrowOf } from "../../ui/arrows";
import { toExact, toNumber } from "../../ui/exact";
import { useDragging } from "../../ui/use-dragging";
import { useBenchState } from "../state/use-bench";
import { nearest } from "./nearest";
import type { View } from "./view";

const SNAP_SCREEN_PX = 7;
const WHEEL_STEP = 0.0008;

type Snapped = { label: string; line: string } | null;
type Grab = { x: number; y: number; offsetX: number; offsetY: number };
const NONE = { across: null, down: null };

/** A plan with some fields of its placement changed. */
export const placed = (plan: Plan, fields: Partial<Placement>): Plan => ({
  ...plan,
  placement: { ...plan.placement, ...fields },
});

/** Placing the picture by dragging, but not while two fingers pinch it. */
export function usePlacing(view: View, pinching: RefObject<boolean>) {
  const state = useBenchState();
  const [snapped, setSnapped] = useState<{ across: Snapped; down: Snapped }>(NONE);

  const drag = useDragging<Grab>({
    begin: ({ x, y }) => {
      pinching.current = false;
      const { offset_x, offset_y } = state().viewerPlan.placement;
      return { x, y, offsetX: toNumber(offset_x), offsetY: toNumber(offset_y) };
    },
    move: (grab, { x, y }, { altKey }) => {
      if (pinching.current) return;
      const { measure, viewerPlan, viewerEdits } = state();
      const snap = (snaps: Measure["snaps_across"], wanted: number, scale: number) =>
        altKey ? null : nearest(snaps, wanted, SNAP_SCREEN_PX / scale);
      const wantedX = grab.offsetX + (x - grab.x) / view.across;
      const wantedY = grab.offsetY + (y - grab.y) / view.down;
      const across = snap(measure.snaps_across, wantedX, view.across);
      const down = snap(measure.snaps_down, wantedY, view.down);
      setSnapped({ across, down });
      const offset_x = across?.offset ?? toExact(wantedX, 2);
      const offset_y = down?.offset ?? toExact(wantedY, 2);
      viewerEdits.change(placed(viewerPlan, { offset_x, offset_y }));
    },
    end: ({ offsetX, offsetY }) => {
      setSnapped(NONE);
      if (pinching.current) return;
      const { viewerPlan, viewerEdits } = state();
      const { offset_x, offset_y } = viewerPlan.placement;
      if (toNumber(offset_x) !== offsetX || toNumber(offset_y) !== offsetY)
        viewerEdits.commit(viewerPlan, "Position");
    },
    cancel: () => {
      setSnapped(NONE);
      state().viewerEdits.abandon();
    },
  });

  return { drag, snapped };
}

/** Enlarging the picture by the wheel, and moving it by the arrow keys. */
export function useWheelAndKeys() {
  const state = useBenchState();

  function onWheel(event: WheelEvent) {
    event.preventDefault();
    const { measure, viewerPlan, viewerEdits } = state();
    const wanted = tightnessOf(viewerPlan.placement, measure) - event.deltaY * WHEEL_STEP;
    const tightness = toExact(Math.min(measure.limits.tightness, Math.max(0, wanted)), 3);
    viewerEdits.commit(placed(viewerPlan, { sizing: "tightness", tightness }), "Fill amount");
  }

  function onKeyDown(event: KeyboardEvent) {
    const way = arrowOf(event);
    if (!way) return;
    event.preventDefault();
    const { viewerPlan, viewerEdits } = state();
    const { offset_x, offset_y } = viewerPlan.placement;
    const nudged = {
      offset_x: toExact(toNumber(offset_x) + way[0]),
      offset_y: toExact(toNumber(offset_y) + way[1]),
    };
    viewerEdits.commit(placed(viewerPlan, nudged), "Nudged");
  }

  return { onWheel, onKeyDown };
}

/** The fill amount of a placement: as it is set, or as it results if the size is set otherwise. */
export function tightnessOf({ sizing, tightness }: Placement, measure: Measure): number {
  return toNumber(sizing === "tightness" ? tightness : measure.tightness);
}
