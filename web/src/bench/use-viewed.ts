import { useLayoutEffect } from "react";
import type { Plan } from "../api/client";
import { moves } from "./shots/shots";
import { useBench, useStill } from "./state/use-bench";
import { moment } from "./timecode";
import { usePreview } from "./use-preview";

/**
 * What the viewer shows of a plan: its picture, and its numbers in the same request unless the stored ones are right.
 * Without a width it is only the numbers. A picture that `yields` is cancelled when another one is wanted.
 */
export function useViewed(plan: Plan, width: number | null, yields = false) {
  const { rate, shownPlan, wholePlan, edits, takeMeasure } = useBench(
    "rate",
    "shownPlan",
    "wholePlan",
    "edits",
    "takeMeasure",
  );
  const time = moment(useStill(), rate);
  const measured = plan === shownPlan && (edits.draft !== null || moves(wholePlan));
  const viewed = usePreview(width === null && !measured ? null : { plan, time, width, measured, yields });
  const { measure, design } = viewed ?? {};
  useLayoutEffect(() => {
    if (measure && design) takeMeasure(measure, design);
  }, [measure, design, takeMeasure]);
  return { viewed, time };
}
