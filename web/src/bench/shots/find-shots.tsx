import { useEffect, useRef, useState } from "react";
import { api } from "../../api/client";
import { AT_WORK, refreshFramings } from "../../api/queries";
import { useSend } from "../../api/use-send";
import { Button } from "../../ui/button";
import { ProblemNote } from "../../ui/problem-note";
import { useBench } from "../state/use-bench";
import { useCut } from "./use-cut";

/** A clip that is one shot so far: having its shots found, or cutting it by hand. */
export function FindShots() {
  const { footage, time, editing } = useBench("footage", "time", "editing");
  const cut = useCut();
  const [wanted, setWanted] = useState(false);
  const finding = useSend(
    () => api.POST("/api/footage/{footage_id}/shots", { params: { path: { footage_id: footage.id } } }),
    { refresh: refreshFramings },
  );
  const job = footage.analyses.find(({ kind }) => kind === "shots");
  const found = footage.shots?.starts.length ?? 0;
  const atWork = job !== undefined && AT_WORK.includes(job.state);
  const latestCut = useRef(cut);
  latestCut.current = cut;
  useEffect(() => {
    if (!wanted || !found) return;
    setWanted(false);
    if (found > 1) latestCut.current({ do: "found" });
  }, [wanted, found]);

  function find() {
    setWanted(true);
    if (!found) finding.mutate();
  }

  return (
    <section aria-label="Shots" className="grid gap-2">
      <ProblemNote error={finding.error} />
      <div className="flex flex-wrap items-center gap-2">
        {found !== 1 && (
          <Button disabled={atWork || editing || finding.isPending} onClick={find}>
            Find shots
          </Button>
        )}
        <Button
          disabled={editing}
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
