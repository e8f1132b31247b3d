import { useQueryClient } from "@tanstack/react-query";
import { api } from "../../../api/client";
import { AT_WORK, materialsQuery, refreshFramings } from "../../../api/queries";
import { useSend } from "../../../api/use-send";
import { Button } from "../../../ui/button";
import { ProblemNote } from "../../../ui/problem-note";
import { useBench } from "../../state/use-bench";

/** Closed captions that the pictures carry: have them read, and add them to the project. */
export function ClosedCaptions() {
  const { footage, projectId } = useBench("footage", "projectId");
  const client = useQueryClient();
  const params = { path: { footage_id: footage.id } };
  const read = useSend(() => api.POST("/api/footage/{footage_id}/captions", { params }), {
    refresh: refreshFramings,
  });
  const keep = useSend(() => api.POST("/api/footage/{footage_id}/captions/material", { params }), {
    onSuccess: () => client.invalidateQueries({ queryKey: materialsQuery(projectId).queryKey }),
  });
  if (footage.closed_captions === "none") return null;
  const job = footage.analyses.find(({ kind }) => kind === "captions");
  const working = job !== undefined && AT_WORK.includes(job.state);
  return (
    <section aria-label="Closed captions" className="flex flex-wrap items-center gap-2">
      <ProblemNote error={read.error ?? keep.error} />
      {footage.closed_captions === "read" ? (
        <Button disabled={keep.isPending || keep.isSuccess} onClick={() => keep.mutate()}>
          Add the captions to the project
        </Button>
      ) : (
        <Button disabled={working || read.isPending} onClick={() => read.mutate()}>
          Read the closed captions
        </Button>
      )}
      <span role="status" className="text-soft">
        {working && `Reading … ${job.done_percent}%`}
        {keep.isSuccess && "They can be chosen in the Finish step."}
        {job && !working && footage.closed_captions === "unread" && job.problem}
      </span>
    </section>
  );
}
