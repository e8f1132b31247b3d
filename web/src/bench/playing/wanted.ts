import type { Footage, Plan } from "../../api/client";
import { designOf } from "../editor/scope";
import { extendsScene, useStamps } from "../extending/stamp";
import type { Wanted } from "./player";

const LINES = { least: 540, most: 1080 };

/** How many lines something is played with that is seen so large on the screen. */
export const linesOf = ({ height }: { height: number }) =>
  Math.min(LINES.most, Math.max(LINES.least, Math.round(height * window.devicePixelRatio)));

/** The request to play plans of a clip at a height in lines. */
export function wantedOf(
  framingId: number,
  footage: Footage,
  plans: Plan[],
  lines: number,
  { source = false, alone = false } = {},
): Wanted {
  const [first] = plans;
  return {
    framingId,
    designs: plans.map(designOf),
    lines,
    source,
    alone,
    stamp: JSON.stringify([
      footage.stamp,
      footage.range,
      first?.frame,
      first?.interpretation,
      plans.some(extendsScene) ? useStamps.getState()[framingId] : "",
    ]),
  };
}
