import { type RefObject, useState } from "react";
import { api, unwrap } from "../../api/client";
import { toExact } from "../../ui/exact";
import { type At, useDragging } from "../../ui/use-dragging";
import { useBench } from "../state/use-bench";
import type { View } from "./view";

type Ends = { x1: number; y1: number; x2: number; y2: number };
const SHORTEST = 20;

/** Drawing a line along the horizon, by which the picture is then levelled. */
export function useLine(place: RefObject<HTMLElement | null>, view: View) {
  const { edit, show } = useBench("edit", "show");
  const [line, setLine] = useState<Ends | null>(null);

  function inViewer({ x, y }: At): At {
    const box = place.current?.getBoundingClientRect();
    return { x: x - (box?.left ?? 0), y: y - (box?.top ?? 0) };
  }

  async function level({ x1, y1, x2, y2 }: Ends) {
    const across = toExact((x2 - x1) / view.across, 3);
    const down = toExact((y2 - y1) / view.down, 3);
    await edit("Straightened", (params, asked) =>
      unwrap(api.POST("/api/framings/{framing_id}/straighten", { params, body: { ...asked, across, down } })),
    );
    show({ levelling: false });
  }

  const drag = useDragging<Ends>({
    begin: (at) => {
      const { x, y } = inViewer(at);
      return { x1: x, y1: y, x2: x, y2: y };
    },
    move: (ends, at) => {
      const { x, y } = inViewer(at);
      Object.assign(ends, { x2: x, y2: y });
      setLine({ ...ends });
    },
    end: (ends) => {
      setLine(null);
      if (Math.hypot(ends.x2 - ends.x1, ends.y2 - ends.y1) >= SHORTEST) level(ends);
    },
    cancel: () => setLine(null),
  });

  return { line, drag };
}
