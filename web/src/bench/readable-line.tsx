import { api, unwrap } from "../api/client";
import { PlanLine } from "./plan-line";
import type { Editing } from "./use-framing";

type Props = Pick<Editing, "plan" | "commit"> & { framingId: number; what: string };

/** Whether titles and captions are readable against their background, and the smallest change that makes them so. */
export function ReadableLine({ what, ...props }: Props) {
  const params = { path: { framing_id: props.framingId } };
  return (
    <PlanLine
      {...props}
      name="legible"
      judge={(design) => unwrap(api.POST("/api/framings/{framing_id}/legible", { params, body: { design } }))}
      say={(all) => {
        const found = all.find((one) => one.what === what);
        return found ? { good: found.readable, text: `Words: ${found.summary}` } : null;
      }}
      waiting="Checking legibility …"
      correct={(body) => unwrap(api.POST("/api/framings/{framing_id}/readable", { params, body }))}
      button="Make readable"
      label="Made readable"
      retry={false}
    />
  );
}
