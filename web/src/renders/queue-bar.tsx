import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api } from "../api/client";
import { queueQuery } from "../api/queries";
import { useSend } from "../api/use-send";
import { megabytes, remaining } from "../rendering/words";
import { Button } from "../ui/button";
import { ProblemNote } from "../ui/problem-note";

type Do = "pause" | "resume" | "cancel";

/** All renders that are not over, together: how far, how fast, how long still; and what can be done with all of them. */
export function QueueBar({ projectId }: { projectId: number }) {
  const { data: queue } = useQuery(queueQuery(projectId));
  const change = useSend(
    (what: Do) =>
      api.POST("/api/projects/{project_id}/queue", {
        params: { path: { project_id: projectId } },
        body: { do: what },
      }),
    { refresh: ["renders", projectId] },
  );
  if (!queue || queue.running + queue.waiting + queue.paused === 0) return null;
  const counts = [
    [queue.running, "rendering"],
    [queue.waiting, "queued"],
    [queue.paused, "paused"],
  ].filter(([count]) => count);
  return (
    <section aria-label="All renders" className="mb-4 rounded border border-rule bg-sheet p-4">
      <div className="flex items-center gap-3">
        <p className="grow font-semibold">{counts.map((pair) => pair.join(" ")).join(", ")}</p>
        {queue.running + queue.waiting > 0 && (
          <Button disabled={change.isPending} onClick={() => change.mutate("pause")}>
            Pause all
          </Button>
        )}
        {queue.paused > 0 && (
          <Button disabled={change.isPending} onClick={() => change.mutate("resume")}>
            Resume all
          </Button>
        )}
        <Button look="quiet" disabled={change.isPending} onClick={() => change.mutate("cancel")}>
          Cancel all
        </Button>
      </div>
      <progress
        className="mt-2 block h-1 w-full"
        aria-label="Progress of all"
        value={queue.total ? queue.done / queue.total : 0}
        max={1}
      />
      <p className="num mt-1 flex flex-wrap justify-between gap-x-4 text-soft">
        <span>
          {queue.done} of {queue.total} frames
        </span>
        <span>
          {queue.frames_per_second > 0 &&
            `${queue.frames_per_second.toFixed(0)} frames/s, ${remaining(queue.seconds_left)}, `}
          {megabytes(queue.free)} free
        </span>
      </p>
      <TellMe />
      <ProblemNote error={change.error} />
    </section>
  );
}

/** Asks for permission to notify when a render ends, on a press only. */
function TellMe() {
  const able = "Notification" in window;
  const [permission, setPermission] = useState(able ? Notification.permission : "denied");
  if (permission === "default")
    return (
      <Button
        look="link"
        className="mt-1 min-h-6"
        onClick={() => Notification.requestPermission().then(setPermission)}
      >
        Notify me when done
      </Button>
    );
  return permission === "granted" ? (
    <p className="mt-1 text-soft">You will be notified when they are done.</p>
  ) : null;
}
