import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answered, api, type Plan } from "../api/client";
import { Button } from "../ui/button";
import { useRested } from "../ui/use-rested";
import type { Changer } from "./use-framing";

const REST_MS = 500;

type Props = Pick<Changer, "plan" | "commit"> & { framingId: number; what: string };

/** Whether some words can be read against what is behind them, and the least change that makes it so. */
export function ReadableLine({ framingId, what, plan, commit }: Props) {
  const [busy, setBusy] = useState(false);
  const params = { path: { framing_id: framingId } };
  const rested = useRested(JSON.stringify(plan), REST_MS);
  const { data } = useQuery({
    queryKey: ["legible", framingId, rested],
    enabled: rested !== null,
    queryFn: () =>
      answered(
        api.POST("/api/framings/{framing_id}/legible", {
          params,
          body: { plan: JSON.parse(rested ?? "") as Plan },
        }),
      ),
    placeholderData: (before) => before,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 60_000,
    retry: false,
  });
  const found = data?.find((one) => one.what === what);

  async function mend() {
    setBusy(true);
    try {
      const better = await answered(
        api.POST("/api/framings/{framing_id}/readable", { params, body: { plan } }),
      );
      await commit(better, "Made readable");
    } finally {
      setBusy(false);
    }
  }

  if (data && !found) return null;
  return (
    <div className="flex min-h-8 items-center gap-3">
      <p
        role="status"
        className={`grow ${found ? (found.readable ? "text-moss" : "text-rust") : "text-soft"}`}
      >
        {busy ? "Looking for the least change …" : found ? `Words: ${found.says}` : "Looking at the words …"}
      </p>
      <Button disabled={busy || found?.readable !== false} onClick={mend}>
        Make readable
      </Button>
    </div>
  );
}
