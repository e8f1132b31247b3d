import { api, unwrap } from "../api/client";
import { PlanLine } from "./plan-line";

/** How much the surround distracts from the picture, and the least change that makes it calm. */
export const QuietLine = () => (
  <PlanLine
    name="quiet"
    judge={(params, body) => unwrap(api.POST("/api/framings/{framing_id}/quiet", { params, body }))}
    say={({ calm, summary }) => ({ good: calm, text: `Distraction: ${summary}` })}
    waiting="Measuring distraction …"
    correct={(params, body) => unwrap(api.POST("/api/framings/{framing_id}/quieten", { params, body }))}
    button="Tone down"
    label="Toned down"
  />
);
