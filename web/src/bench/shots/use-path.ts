import { useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../../api/client";
import { useRested } from "../../ui/use-rested";
import { movementOf } from "../editor/scope";
import { useBench } from "../state/use-bench";
import { moves } from "./shots";

export type PathPoint = Schemas["PathPoint"];

const REST_MS = 60;

/** The path of the window over the picture; null if it is static. */
export function usePath(): PathPoint[] {
  const { framingId, plan } = useBench("framingId", "plan");
  const design = useRested(JSON.stringify(movementOf(plan)), REST_MS);
  const { data } = useQuery({
    queryKey: ["path", framingId, design, plan.range],
    enabled: design !== null && moves(plan),
    placeholderData: (before: PathPoint[] | undefined) => before,
    gcTime: 60_000,
    queryFn: () =>
      unwrap(
        api.POST("/api/framings/{framing_id}/path", {
          params: { path: { framing_id: framingId } },
          body: { design: JSON.parse(design ?? ""), shot: null },
        }),
      ),
  });
  return (moves(plan) && data) || NONE;
}

const NONE: PathPoint[] = [];

/** Where the window is at a moment, in seconds: between two points of one shot, on the line between them. */
export function pointAt(path: PathPoint[], time: number): PathPoint | null {
  const at = path.findLastIndex((point) => point.time <= time);
  const [before, after] = [path[Math.max(0, at)], path[at + 1]];
  if (!before || !after || at < 0 || after.shot !== before.shot) return before ?? null;
  const part = (time - before.time) / (after.time - before.time || 1);
  const between = (one: number, other: number) => one + (other - one) * part;
  return {
    ...before,
    time,
    x: between(before.x, after.x),
    y: between(before.y, after.y),
    corners: before.corners.map(({ x, y }, corner) => ({
      x: between(x, after.corners[corner]?.x ?? x),
      y: between(y, after.corners[corner]?.y ?? y),
    })),
  };
}

/** The points of the shot that a moment lies in. */
export function ofShotAt(path: PathPoint[], time: number): PathPoint[] {
  const shot = pointAt(path, time)?.shot;
  return path.filter((point) => point.shot === shot);
}
