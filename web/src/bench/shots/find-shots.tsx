import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, type Footage, unwrap } from "../../api/client";
import { AT_WORK, refreshFramings } from "../../api/queries";
import { Button } from "../../ui/button";
import { ProblemNote } from "../../ui/problem-note";
import type { useCutting } from "./use-cutting";

type Props = { footage: Footage; time: string; cutting: ReturnType<typeof useCutting> };

/** A clip that is one shot so far: having its shots found, or cutting it by hand. */
export function FindShots({ footage, time, cutting: { cut, busy, error } }: Props) {
  const client = useQueryClient();
  const [wanted, setWanted] = useState(false);
  const looking = useMutation({
    mutationFn: () =>
      unwrap(api.POST("/api/footage/{footage_id}/shots", { params: { path: { footage_id: footage.id } } })),
    onSettled: () => refreshFramings(client),
  });
  const job = footage.analyses.find(({ kind }) => kind === "shots");
  const found = footage.shots?.starts.length ?? 0;
  const atWork = job !== undefined && AT_WORK.includes(job.state);
  useEffect(() => {
    if (!wanted || !found) return;
    setWanted(false);
    if (found > 1) cut({ do: "found" });
  }, [wanted, found, cut]);

  function find() {
    setWanted(true);
    if (!found) looking.mutate();
  }

  return (
    <section aria-label="Shots" className="grid gap-2">
      <ProblemNote error={looking.error ?? error} />
      <div className="flex flex-wrap items-center gap-2">
        {found !== 1 && (
          <Button disabled={atWork || busy || looking.isPending} onClick={find}>
            Find shots
          </Button>
        )}
        <Button
          disabled={busy}
          title="A new shot begins with the picture that is seen"
          onClick={() => cut({ do: "split", time })}
        >
          Split here
        </Button>
        <span role="status" className="text-soft">
          {atWork && `Looking for shots … ${job.done_percent}%`}
          {job?.state === "failed" && `${job.problem} ${job.remedy}`}
          {found === 1 && "No cut was found in this clip."}
        </span>
      </div>
    </section>
  );
}
