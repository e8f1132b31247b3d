import { answered, api } from "../api/client";
import { PlanLine } from "./plan-line";
import type { Changer } from "./use-framing";

type Props = Pick<Changer, "plan" | "commit"> & { framingId: number; what: string };

/** Whether some words can be read against what is behind them, and the least change that makes it so. */
export function ReadableLine({ what, ...props }: Props) {
  const params = { path: { framing_id: props.framingId } };
  return (
    <PlanLine
      {...props}
      name="legible"
      judge={(plan) => answered(api.POST("/api/framings/{framing_id}/legible", { params, body: { plan } }))}
      say={(all) => {
        const found = all.find((one) => one.what === what);
        return found ? { good: found.readable, text: `Words: ${found.says}` } : null;
      }}
      waiting="Looking at the words …"
      mend={(plan) => answered(api.POST("/api/framings/{framing_id}/readable", { params, body: { plan } }))}
      button="Make readable"
      label="Made readable"
      retry={false}
    />
  );
}
