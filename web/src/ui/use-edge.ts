import { type KeyboardEvent, type PointerEvent, useState } from "react";

const STEP = 0.02;
const within = (part: number) => Math.min(1, Math.max(0, part));

/** A split between two pictures, dragged or moved by the arrow keys; its position is a share of the width, 0 to 1. */
export function useEdge(label: string, pictures: (held: HTMLElement) => DOMRect) {
  const [at, setAt] = useState(0.5);

  function onPointer(event: PointerEvent<HTMLElement>) {
    event.stopPropagation();
    if (event.type === "pointerdown") event.currentTarget.setPointerCapture(event.pointerId);
    else if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
    const box = pictures(event.currentTarget);
    setAt(within((event.clientX - box.left) / box.width));
  }

  function onKeyDown(event: KeyboardEvent) {
    const by = { ArrowLeft: -STEP, ArrowRight: STEP }[event.key];
    if (!by) return;
    event.preventDefault();
    event.stopPropagation();
    setAt(within(at + by));
  }

  const slider = {
    role: "slider",
    tabIndex: 0,
    "aria-label": label,
    "aria-valuemin": 0,
    "aria-valuemax": 100,
    "aria-valuenow": Math.round(at * 100),
    onPointerDown: onPointer,
    onPointerMove: onPointer,
    onKeyDown,
  } as const;
  return { at, slider };
}
