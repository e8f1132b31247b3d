import { usePinch as useFingers } from "@use-gesture/react";
import { type MouseEvent, type RefObject, useRef } from "react";
import type { Plan } from "../../api/client";
import { toExact, toNumber } from "../../ui/exact";
import { useBenchState } from "../state/use-bench";
import { placed } from "./use-placing";
import type { Point, View } from "./view";

type Fingers = { apart: number; middle: Point };
export type Pinched = { scale: number; offset: Point };

/**
 * How large the picture is, and how far from the frame's middle, once two fingers have gone from a place to another:
 * what lay between them stays between them. Places are in frame pixels from the frame's middle.
 */
export function pinched(from: Fingers, now: Fingers, initial: Pinched, most: number): Pinched {
  const wanted = initial.scale * (now.apart / Math.max(from.apart, 1));
  const scale = Math.min(most, Math.max(1 / most, wanted));
  const grown = scale / initial.scale;
  return {
    scale,
    offset: {
      x: now.middle.x - (from.middle.x - initial.offset.x) * grown,
      y: now.middle.y - (from.middle.y - initial.offset.y) * grown,
    },
  };
}

/**
 * Two fingers on the picture scale and move it; a double tap fits it whole into the middle. `pinching` says whether two
 * fingers are down, until the next drag starts.
 */
export function usePinch(place: RefObject<HTMLElement | null>, view: View) {
  const state = useBenchState();
  const pinching = useRef(false);

  function begin(from: Fingers) {
    pinching.current = true;
    state().viewerEdits.abandon();
    const { measure, viewerPlan } = state();
    const { offset_x, offset_y } = viewerPlan.placement;
    const offset = { x: toNumber(offset_x), y: toNumber(offset_y) };
    return { from, initial: { scale: toNumber(measure.scale), offset } };
  }

  useFingers(
    ({ first, last, origin, da: [apart], memo }) => {
      const now = { apart, middle: inFrame(origin, place.current, state().viewerPlan.frame, view) };
      if (first) return begin(now);
      const { from, initial } = memo as ReturnType<typeof begin>;
      const { measure, viewerPlan, viewerEdits } = state();
      if (last) viewerEdits.commit(viewerPlan, "Sized by hand");
      else {
        const { scale, offset } = pinched(from, now, initial, measure.limits.scale);
        const moved = { offset_x: toExact(offset.x, 2), offset_y: toExact(offset.y, 2) };
        viewerEdits.change(placed(viewerPlan, { sizing: "scale", scale: toExact(scale, 6), ...moved }));
      }
      return memo;
    },
    { target: place, pointer: { touch: true }, pinchOnWheel: false, eventOptions: { passive: false } },
  );

  function onClick({ detail, nativeEvent }: MouseEvent) {
    if (detail !== 2 || (nativeEvent as PointerEvent).pointerType !== "touch") return;
    const { viewerPlan, viewerEdits } = state();
    const whole = { sizing: "tightness" as const, tightness: "0", offset_x: "0", offset_y: "0" };
    viewerEdits.commit(placed(viewerPlan, whole), "Whole");
  }

  return { pinching, onClick };
}

/** A place on the screen, in frame pixels from the frame's middle. */
function inFrame(
  [x, y]: [number, number],
  place: HTMLElement | null,
  { width, height }: Plan["frame"],
  view: View,
): Point {
  const { left, top } = place?.getBoundingClientRect() ?? { left: 0, top: 0 };
  return {
    x: (x - left - view.left) / view.across - width / 2,
    y: (y - top - view.top) / view.down - height / 2,
  };
}
