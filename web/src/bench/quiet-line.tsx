import { answered, api } from "../api/client";
import { PlanLine } from "./plan-line";
import type { Changer } from "./use-framing";

type Props = Pick<Changer, "plan" | "commit"> & { framingId: number };

/** Whether the surround keeps quiet beside the picture, and the least change that makes it so. */
export function QuietLine(props: Props) {
  const params = { path: { framing_id: props.framingId } };
  return (
    <PlanLine
      {...props}
      name="quiet"
      judge={(plan) => answered(api.POST("/api/framings/{framing_id}/quiet", { params, body: { plan } }))}
      say={({ calm, says }) => ({ good: calm, text: `Beside the picture: ${says}` })}
      waiting="Looking how quiet it is …"
      mend={(plan) => answered(api.POST("/api/framings/{framing_id}/quieten", { params, body: { plan } }))}
      button="Quieten"
      label="Quietened"
    />
  );
}
