import { api, type Schemas, unwrap } from "../../api/client";
import { useBench } from "../state/use-bench";

type Cut = Pick<Schemas["CutIn"], "do"> & Partial<Pick<Schemas["CutIn"], "number" | "time" | "part">>;

const LABELS: Record<Cut["do"], string> = {
  found: "Cut into shots",
  split: "Split",
  join: "Joined",
  move: "Cut moved",
  as_whole: "Same as whole clip",
  copy_next: "Copied to the next shot",
  copy_all: "Copied to all shots",
};

/** Edits of the shots of the framing. */
export function useCut() {
  const { edit, committedPlan } = useBench("edit", "committedPlan");
  return (cut: Cut) =>
    edit(
      LABELS[cut.do],
      (params, { design }) =>
        unwrap(
          api.POST("/api/framings/{framing_id}/shots", {
            params,
            body: { number: 0, time: "0", part: "placement", ...cut, design },
          }),
        ),
      committedPlan,
    );
}
