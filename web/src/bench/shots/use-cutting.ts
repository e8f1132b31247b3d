import { useMutation } from "@tanstack/react-query";
import { api, type Design, type Plan, unwrap } from "../../api/client";
import type { components } from "../../api/generated";
import type { PlanEditor } from "../editor/plan-editor";
import { designOf, everywhere } from "../editor/scope";

type Cut = Omit<components["schemas"]["CutIn"], "design" | "number" | "time" | "part"> &
  Partial<Pick<components["schemas"]["CutIn"], "number" | "time" | "part">>;

const LABELS: Record<Cut["do"], string> = {
  found: "Cut into shots",
  split: "Split",
  join: "Joined",
  move: "Cut moved",
  as_whole: "Same as whole clip",
  copy_next: "Copied to the next shot",
  copy_all: "Copied to all shots",
};

/** Edits of a framing's shots; each is one step. */
export function useCutting(framingId: number, plan: Plan, commit: PlanEditor["commit"]) {
  const cutting = useMutation({
    mutationFn: (cut: Cut) =>
      unwrap(
        api.POST("/api/framings/{framing_id}/shots", {
          params: { path: { framing_id: framingId } },
          body: { number: 0, time: "0", part: "placement", design: designOf(plan), ...cut },
        }),
      ),
    onSuccess: (design: Design, { do: done }) => commit({ ...everywhere(plan, {}), ...design }, LABELS[done]),
  });
  return { cut: cutting.mutate, error: cutting.error, busy: cutting.isPending };
}
