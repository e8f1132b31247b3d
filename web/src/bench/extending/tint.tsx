import type { Plan } from "../../api/client";
import { asked } from "../editor/scope";
import type { ScreenBox } from "../well/view";
import { usePosted } from "./posted-image";
import { useStamps } from "./stamp";

type Props = { framingId: number; plan: Plan; time: string; box: ScreenBox };

/** Invented pixels, and those of other moments, tinted over the frame. */
export function Tint({ framingId, plan, time, box }: Props) {
  const stamp = useStamps((all) => all[framingId] ?? "");
  const width = Math.min(1920, Math.max(16, Math.round(box.width)));
  const url = usePosted(
    `/api/framings/${framingId}/extension/origins`,
    { ...asked(plan), time, width },
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
