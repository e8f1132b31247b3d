import type { Design, Plan } from "../../api/client";
import { toNumber } from "../../ui/exact";
import { PARTS, type Part } from "../editor/scope";

export type Shot = Plan["shots"][number];

/** The number of the shot that a time lies in, in seconds as exact text. */
export function shotAt({ shots }: Plan | Design, time: string): number {
  const at = toNumber(time);
  return Math.max(
    0,
    shots.findLastIndex(({ start }) => toNumber(start) <= at),
  );
}

/** Whether a plan moves, or its shots are placed each in its own way. */
export const moves = ({ motion, shots }: Plan | Design) =>
  motion.move !== null || motion.keys.length > 0 || follows(motion) || shots.length > 0;

/** Whether a plan extends the scene, in the whole clip or in one of its shots. */
export const extendsScene = ({ surround, shots }: Plan | Design) =>
  [surround, ...shots.map((shot) => shot.surround)].some((one) => one?.kind === "extended");

/** Whether a window follows, and its way is found. */
export const follows = ({ follow }: Plan["motion"]) => (follow?.path.length ?? 0) > 0;

/** The custom parts of a shot. */
export const ownOf = (shot: Shot | undefined): Part[] => PARTS.filter((part) => shot?.[part] != null);
