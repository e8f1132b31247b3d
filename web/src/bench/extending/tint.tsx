import { asked } from "../editor/scope";
import { useBench } from "../state/use-bench";
import type { ScreenBox } from "../viewer/view";
import { usePosted } from "./posted-image";

/** Invented pixels, and those of other moments, tinted over the frame. */
export function Tint({ box }: { box: ScreenBox }) {
  const { framingId, shownPlan, time, stamp } = useBench("framingId", "shownPlan", "time", "stamp");
  const width = Math.min(1920, Math.max(16, Math.round(box.width)));
  const url = usePosted(
    `/api/framings/${framingId}/extension/origins`,
    { ...asked(shownPlan), time, width },
    stamp,
  );
  if (!url) return null;
  return (
    <img
      data-testid="tint"
      alt="Invented pixels"
      draggable={false}
      className="pointer-events-none absolute max-w-none"
      style={{ left: box.x, top: box.y, width: box.width, height: box.height }}
      src={url}
    />
  );
}
