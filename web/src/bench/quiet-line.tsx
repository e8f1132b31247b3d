import { api, unwrap } from "../api/client";
import { PlanLine } from "./plan-line";
import type { Editing } from "./use-framing";

type Props = Pick<Editing, "plan" | "commit"> & { framingId: number };

/** Whether the surround keeps quiet beside the picture, and the least change that makes it so. */
export function QuietLine(props: Props) {
  const params = { path: { framing_id: props.framingId } };
  return (
    <PlanLine
      {...props}
      name="quiet"
      judge={(design) => unwrap(api.POST("/api/framings/{framing_id}/quiet", { params, body: { design } }))}
      say={({ calm, summary }) => ({ good: calm, text: `Distraction: ${summary}` })}
      waiting="Measuring distraction …"
      correct={(body) => unwrap(api.POST("/api/framings/{framing_id}/quieten", { params, body }))}
      button="Tone down"
      label="Toned down"
    />
  );
}
