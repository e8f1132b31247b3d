import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import type { Design } from "../api/client";
import { Button } from "../ui/button";
import { useRested } from "../ui/use-rested";
import { alike, asked, designOf, taken } from "./editor/scope";
import type { Editing } from "./use-framing";
import { useAfterWell } from "./use-preview";

const REST_MS = 800;

type Said = { good: boolean; text: string };

type Props<Found> = Pick<Editing, "plan" | "commit"> & {
  /** Names the question among all that are kept. */
  name: string;
  framingId: number;
  /** Ask the server about a plan once it rests. */
  judge: (design: Design) => Promise<Found>;
  /** The words for an answer; null shows nothing. */
  say: (found: Found) => Said | null;
  waiting: string;
  /** The least change that makes it good. */
  correct: (asked: { design: Design; shot: number | null }) => Promise<Design>;
  button: string;
  label: string;
  retry?: boolean;
};

/** One line about a plan, and a button that makes the least change for the better. */
export function PlanLine<Found>(props: Props<Found>) {
  const { name, framingId, plan, commit, judge, say, waiting, correct, button, label, retry = true } = props;
  const [busy, setBusy] = useState(false);
  const drawn = useAfterWell();
  const latest = useRef(plan);
  latest.current = plan;
  const rested = useRested(JSON.stringify(designOf(plan)), REST_MS);
  const { data } = useQuery({
    queryKey: [name, framingId, rested],
    enabled: rested !== null && drawn,
    queryFn: () => judge(JSON.parse(rested ?? "") as Design),
    placeholderData: (before) => before,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 60_000,
    ...(retry ? {} : { retry }),
  });
  const said = data === undefined ? null : say(data as Found);
  if (data !== undefined && !said) return null;

  async function change() {
    setBusy(true);
    try {
      const corrected = await correct(asked(plan));
      // An answer to an older plan does not undo newer changes.
      if (alike(latest.current, plan)) commit(taken(plan, corrected), label);
    } finally {
      setBusy(false);
    }
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
