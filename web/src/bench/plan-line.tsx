import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Design } from "../api/client";
import { Button } from "../ui/button";
import { useRested } from "../ui/use-rested";
import { designOf } from "./editor/scope";
import type { Asked, FramingParams } from "./state/types";
import { useBench } from "./state/use-bench";
import { useAfterViewer } from "./use-preview";

const REST_MS = 800;

type Props<Verdict> = {
  /** Names the question among all that are cached. */
  name: string;
  /** Ask the server about a plan once it rests. */
  judge: (params: FramingParams, body: { design: Design }) => Promise<Verdict>;
  /** The words for an answer; null shows nothing. */
  say: (verdict: Verdict) => { good: boolean; text: string } | null;
  waiting: string;
  /** The least change that makes it good. */
  correct: (params: FramingParams, body: Asked) => Promise<Design>;
  button: string;
  label: string;
  retry?: boolean;
};

/** One line about the plan, and a button that makes the least change for the better. */
export function PlanLine<Verdict>(props: Props<Verdict>) {
  const { name, judge, say, waiting, correct, button, label, retry = true } = props;
  const { framingId, plan, edit } = useBench("framingId", "plan", "edit");
  const [busy, setBusy] = useState(false);
  const afterViewer = useAfterViewer();
  const rested = useRested(JSON.stringify(designOf(plan)), REST_MS);
  const { data } = useQuery({
    queryKey: [name, framingId, rested],
    enabled: rested !== null && afterViewer,
    queryFn: () => judge({ path: { framing_id: framingId } }, { design: JSON.parse(rested ?? "") }),
    placeholderData: (before) => before,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 60_000,
    ...(retry ? {} : { retry }),
  });
  const said = data === undefined ? null : say(data as Verdict);
  if (data !== undefined && !said) return null;

  async function change() {
    setBusy(true);
    await edit(label, correct);
    setBusy(false);
  }

  return (
    <div className="flex min-h-8 items-center gap-3">
      <p role="status" className={`grow ${said ? (said.good ? "text-moss" : "text-rust") : "text-soft"}`}>
        {busy ? "Looking for the least change …" : (said?.text ?? waiting)}
      </p>
      <Button disabled={busy || said?.good !== false} onClick={change}>
        {button}
      </Button>
    </div>
  );
}
