import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answered, api, type Plan } from "../api/client";
import { Button } from "../ui/button";
import { useRested } from "../ui/use-rested";
import type { Changer } from "./use-framing";

const REST_MS = 500;

type Props = Pick<Changer, "plan" | "commit"> & { framingId: number };

/** Whether the surround keeps quiet beside the picture, and the least change that makes it so. */
export function QuietLine({ framingId, plan, commit }: Props) {
  const [busy, setBusy] = useState(false);
  const params = { path: { framing_id: framingId } };
  const rested = useRested(JSON.stringify(plan), REST_MS);
  const { data } = useQuery({
    queryKey: ["quiet", framingId, rested],
    enabled: rested !== null,
    queryFn: () =>
      answered(
        api.POST("/api/framings/{framing_id}/quiet", {
          params,
          body: { plan: JSON.parse(rested ?? "") as Plan },
        }),
      ),
    placeholderData: (before) => before,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 60_000,
  });

  async function quieten() {
    setBusy(true);
    try {
      const quiet = await answered(
        api.POST("/api/framings/{framing_id}/quieten", { params, body: { plan } }),
      );
      await commit(quiet, "Quietened");
    } finally {
      setBusy(false);
    }
  }

  return (
    <div className="flex min-h-8 items-center gap-3">
      <p role="status" className={`grow ${data ? (data.calm ? "text-moss" : "text-rust") : "text-soft"}`}>
        {busy
          ? "Looking for the least change …"
          : data
            ? `Beside the picture: ${data.says}`
            : "Looking how quiet it is …"}
      </p>
      <Button disabled={busy || data?.calm !== false} onClick={quieten}>
        Quieten
      </Button>
    </div>
  );
}
