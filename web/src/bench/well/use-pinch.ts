import { type RefObject, useEffect, useRef } from "react";
import { toExact, toNumber } from "../../ui/exact";
import type { Editing } from "../use-framing";
import type { Point, View } from "./view";

const TAPS_MS = 320;
const TAP_PX = 24;

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

type Latest = RefObject<{ view: View; editing: Editing }>;

/** Two fingers on an element. */
class Pinch {
  private from: Fingers | null = null;
  private initial: Pinched = { scale: 1, offset: { x: 0, y: 0 } };
  private tapped = { time: 0, x: 0, y: 0 };

  /** `at` says whether two fingers are at it, until the last of them has gone. */
  constructor(
    private readonly element: HTMLElement,
    private readonly latest: Latest,
    private readonly at: RefObject<boolean>,
  ) {}

  private get editing() {
    return this.latest.current.editing;
  }

  start = (event: TouchEvent) => {
    if (event.touches.length !== 2) return;
    event.preventDefault();
    const { measure, plan, abandon } = this.editing;
    const { offset_x, offset_y } = plan.placement;
    abandon();
    this.from = this.fingers(event.touches);
    this.initial = {
      scale: toNumber(measure.scale),
      offset: { x: toNumber(offset_x), y: toNumber(offset_y) },
    };
    this.at.current = true;
  };

  move = (event: TouchEvent) => {
    const now = this.from && this.fingers(event.touches);
    if (!this.from || !now) return;
    event.preventDefault();
    const { plan, measure, change } = this.editing;
    const { scale, offset } = pinched(this.from, now, this.initial, measure.limits.scale);
    const sized = { sizing: "scale" as const, scale: toExact(scale, 6) };
    const moved = { offset_x: toExact(offset.x, 2), offset_y: toExact(offset.y, 2) };
    change({ ...plan, placement: { ...plan.placement, ...sized, ...moved } });
  };

  end = (event: TouchEvent) => {
    if (this.from) {
      this.from = null;
      this.editing.commit(this.editing.plan, "Sized by hand");
    } else if (event.touches.length === 0 && !this.at.current) this.tap(event);
    if (event.touches.length === 0) this.at.current = false;
  };

  private tap({ changedTouches, timeStamp: time }: TouchEvent) {
    const { clientX: x = 0, clientY: y = 0 } = changedTouches[0] ?? {};
    const { tapped } = this;
    this.tapped = { time, x, y };
    if (time - tapped.time > TAPS_MS || Math.hypot(x - tapped.x, y - tapped.y) > TAP_PX) return;
    const { plan, commit } = this.editing;
    const whole = { sizing: "tightness" as const, tightness: "0", offset_x: "0", offset_y: "0" };
    commit({ ...plan, placement: { ...plan.placement, ...whole } }, "Whole");
  }

  private fingers({ 0: one, 1: other }: TouchList): Fingers | null {
    if (!one || !other) return null;
    const [a, b] = [this.inFrame(one), this.inFrame(other)];
    const apart = Math.hypot(one.clientX - other.clientX, one.clientY - other.clientY);
    return { apart, middle: { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 } };
  }

  private inFrame({ clientX, clientY }: Touch): Point {
    const { view, editing } = this.latest.current;
    const { left, top } = this.element.getBoundingClientRect();
    const { width, height } = editing.plan.frame;
    return {
      x: (clientX - left - view.left) / view.across - width / 2,
      y: (clientY - top - view.top) / view.down - height / 2,
    };
  }
}

/**
 * Two fingers on the picture: apart or together they size it about themselves, and together they move it; two taps
 * bring it back whole into the middle. Says whether two fingers are at it.
 */
export function usePinch(
  place: RefObject<HTMLElement | null>,
  view: View,
  editing: Editing,
): RefObject<boolean> {
  const latest = useRef({ view, editing });
  latest.current = { view, editing };
  const at = useRef(false);
  useEffect(() => {
    const element = place.current;
    if (!element) return;
    const pinch = new Pinch(element, latest, at);
    const listening = new AbortController();
    const how = { passive: false, signal: listening.signal };
    element.addEventListener("touchstart", pinch.start, how);
    element.addEventListener("touchmove", pinch.move, how);
    element.addEventListener("touchend", pinch.end, how);
    element.addEventListener("touchcancel", pinch.end, how);
    return () => listening.abort();
  }, [place]);
  return at;
}
