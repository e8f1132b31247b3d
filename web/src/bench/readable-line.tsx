import { api, unwrap } from "../api/client";
import { PlanLine } from "./plan-line";

/** Whether a title or panel is readable against its background, and the smallest change that makes it so. */
export const ReadableLine = ({ what }: { what: string }) => (
  <PlanLine
    name="legible"
    judge={(params, body) => unwrap(api.POST("/api/framings/{framing_id}/legible", { params, body }))}
    say={(all) => {
      const found = all.find((one) => one.what === what);
      return found ? { good: found.readable, text: `Words: ${found.summary}` } : null;
    }}
    waiting="Checking legibility …"
    correct={(params, body) => unwrap(api.POST("/api/framings/{framing_id}/readable", { params, body }))}
    button="Make readable"
    label="Made readable"
    retry={false}
  />
);
