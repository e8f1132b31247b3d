import { type PointerEvent, type RefObject, useState } from "react";
import { answered, api, type Plan } from "../../api/client";
import { toExact } from "../../api/exact";
import type { Changer } from "../use-framing";
import type { View } from "./view";

type Ends = { x1: number; y1: number; x2: number; y2: number };
const SHORTEST = 20;

/** Drawing a line along the horizon, by which the picture is then straightened. */
export function useLine(
  place: RefObject<HTMLElement | null>,
  view: View,
  framingId: number,
  { plan, commit }: Changer,
  onDone: () => void,
) {
  const [line, setLine] = useState<Ends | null>(null);

  function at(event: PointerEvent) {
    const box = place.current?.getBoundingClientRect();
    return { x: event.clientX - (box?.left ?? 0), y: event.clientY - (box?.top ?? 0) };
  }

  function onPointerDown(event: PointerEvent) {
    event.currentTarget.setPointerCapture(event.pointerId);
    const { x, y } = at(event);
    setLine({ x1: x, y1: y, x2: x, y2: y });
  }

  function onPointerMove(event: PointerEvent) {
    if (!line) return;
    const { x, y } = at(event);
    setLine({ ...line, x2: x, y2: y });
  }

  async function onPointerUp() {
    if (!line) return;
    setLine(null);
    if (Math.hypot(line.x2 - line.x1, line.y2 - line.y1) < SHORTEST) return;
    const across = toExact((line.x2 - line.x1) / view.across, 3);
    const down = toExact((line.y2 - line.y1) / view.down, 3);
    const straight: Plan = await answered(
      api.POST("/api/framings/{framing_id}/straighten", {
        params: { path: { framing_id: framingId } },
        body: { plan, across, down },
      }),
    );
    onDone();
    commit(straight, "Straightened");
  }

  return { line, handlers: { onPointerDown, onPointerMove, onPointerUp, onPointerCancel: onPointerUp } };
}
