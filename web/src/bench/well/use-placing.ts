import { type KeyboardEvent, type RefObject, useRef, useState } from "react";
import type { Measure, Placement, Plan } from "../../api/client";
import { arrowOf } from "../../ui/arrows";
import { toExact, toNumber } from "../../ui/exact";
import { useDragging } from "../../ui/use-dragging";
import type { Editing } from "../use-framing";
import { nearest } from "./nearest";
import type { View } from "./view";

const SNAP_SCREEN_PX = 7;
const WHEEL_STEP = 0.0008;

type Snapped = { label: string; line: string } | null;
type Grab = { x: number; y: number; offsetX: number; offsetY: number };
const NONE = { across: null, down: null };

/** Placing the picture by hand: dragging, the wheel, the arrow keys. While two fingers pinch it, one does not drag it. */
export function usePlacing(
  view: View,
  { plan, measure, change, commit, abandon }: Editing,
  pinching: RefObject<boolean>,
) {
  const latest = useRef<Plan>(plan);
  const [snapped, setSnapped] = useState<{ across: Snapped; down: Snapped }>(NONE);
  latest.current = plan;

  function placed(fields: Partial<Placement>): Plan {
    latest.current = { ...latest.current, placement: { ...latest.current.placement, ...fields } };
    return latest.current;
  }

  const drag = useDragging<Grab>({
    begin: ({ x, y }) => {
      const { offset_x, offset_y } = latest.current.placement;
      return { x, y, offsetX: toNumber(offset_x), offsetY: toNumber(offset_y) };
    },
    move: (grab, { x, y }, event) => {
      if (pinching.current) return;
      const wantedX = grab.offsetX + (x - grab.x) / view.across;
      const wantedY = grab.offsetY + (y - grab.y) / view.down;
      const across = event.altKey
        ? null
        : nearest(measure.snaps_across, wantedX, SNAP_SCREEN_PX / view.across);
      const down = event.altKey ? null : nearest(measure.snaps_down, wantedY, SNAP_SCREEN_PX / view.down);
      setSnapped({ across, down });
      change(
        placed({
          offset_x: across?.offset ?? toExact(wantedX, 2),
          offset_y: down?.offset ?? toExact(wantedY, 2),
        }),
      );
    },
    end: ({ offsetX, offsetY }) => {
      setSnapped(NONE);
      if (pinching.current) return;
      const { offset_x, offset_y } = latest.current.placement;
      if (toNumber(offset_x) !== offsetX || toNumber(offset_y) !== offsetY)
        commit(latest.current, "Position");
    },
    cancel: () => {
      setSnapped(NONE);
      abandon();
    },
  });

  function onWheel(event: WheelEvent) {
    event.preventDefault();
    const now = tightnessOf(latest.current.placement, measure);
    const wanted = now - event.deltaY * WHEEL_STEP;
    const tightness = toExact(Math.min(measure.limits.tightness, Math.max(0, wanted)), 3);
    commit(placed({ sizing: "tightness", tightness }), "Fill amount");
  }

  function onKeyDown(event: KeyboardEvent) {
    const way = arrowOf(event);
    if (!way) return;
    event.preventDefault();
    const { offset_x, offset_y } = latest.current.placement;
    const next = placed({
      offset_x: toExact(toNumber(offset_x) + way[0]),
      offset_y: toExact(toNumber(offset_y) + way[1]),
    });
    commit(next, "Nudged");
  }

  return { drag, onKeyDown, onWheel, snapped };
}

/** How tight a placement is: as the hand set it, or as it comes to where the size is said otherwise. */
export function tightnessOf({ sizing, tightness }: Placement, measure: Measure): number {
  return toNumber(sizing === "tightness" ? tightness : measure.tightness);
}
