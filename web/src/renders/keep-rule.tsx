import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, unwrap } from "../api/client";
import { queueQuery } from "../api/queries";
import { megabytes } from "../rendering/words";
import { Button } from "../ui/button";
import { Fold } from "../ui/fold";
import { NumberField } from "../ui/number-field";
import { ProblemNote } from "../ui/problem-note";

type Rule = { days: number | null; gigabytes: number | null };

/** How long finished files are kept. The files that a setting would delete are listed before it is saved. */
export function KeepRule({ projectId }: { projectId: number }) {
  const client = useQueryClient();
  const { data: queue } = useQuery(queueQuery(projectId));
  const [drafted, setDrafted] = useState<Rule | null>(null);
  const path = { params: { path: { project_id: projectId } } };
  const ask = useMutation({
    mutationFn: (body: Rule) => unwrap(api.POST("/api/projects/{project_id}/kept", { ...path, body })),
  });
  const set = useMutation({
    mutationFn: (body: Rule) => unwrap(api.PUT("/api/projects/{project_id}/kept", { ...path, body })),
    onSettled: () => {
      setDrafted(null);
      ask.reset();
      client.invalidateQueries({ queryKey: ["renders", projectId] });
    },
  });
  if (!queue) return null;
  const { kept } = queue;
  const rule: Rule = drafted ?? { days: kept.days, gigabytes: kept.gigabytes };

  function draft(fields: Partial<Rule>) {
    const next = { ...rule, ...fields };
    setDrafted(next);
    ask.mutate(next);
  }

  return (
    <Fold title="Keep files" state={summary(kept)}>
      <p className="text-soft">
        {kept.files} {kept.files === 1 ? "file" : "files"}, {megabytes(kept.bytes)}. A rule takes old files
        automatically; their renders stay here with all measurements, and can be rendered again.
      </p>
      <div className="flex flex-wrap items-center gap-2.5">
        <span>Keep each for</span>
        <NumberField
          label="Days each file is kept; 0 keeps it forever"
          {...{ unit: "days", low: 0, high: 3650, step: 1, decimals: 0 }}
          className="w-28"
          value={rule.days ?? 0}
          onCommit={(days) => draft({ days: Math.round(days) || null })}
        />
        <span>and all of them up to</span>
        <NumberField
          label="Gigabytes of all files together; 0 for no limit"
          {...{ unit: "GB", low: 0, high: 1_000_000, step: 10, decimals: 3 }}
          className="w-28"
          value={rule.gigabytes ?? 0}
          onCommit={(gigabytes) => draft({ gigabytes: gigabytes || null })}
        />
        <span className="text-soft">0 keeps them forever.</span>
      </div>
      {drafted && (
        <div className="flex items-center gap-3">
          <p className={`grow ${ask.data?.due ? "text-rust" : ""}`}>
            {ask.data &&
              (ask.data.due
                ? `This takes ${ask.data.due} of ${ask.data.files} files away now, ${megabytes(ask.data.due_bytes)}.`
                : "This takes nothing away now.")}
          </p>
          <Button look="quiet" onClick={() => setDrafted(null)}>
            Cancel
          </Button>
          <Button look="main" disabled={!ask.data || set.isPending} onClick={() => set.mutate(drafted)}>
            Save
          </Button>
        </div>
      )}
      {!drafted && kept.next_due && (
        <p className="text-soft">
          The next file is deleted on {new Date(kept.next_due).toLocaleDateString()}.
        </p>
      )}
      <ProblemNote error={ask.error ?? set.error} />
    </Fold>
  );
}

function summary({ days, gigabytes }: Rule): string {
  const parts = [days !== null && `${days} days`, gigabytes !== null && `up to ${gigabytes} GB`];
  return parts.filter(Boolean).join(", ") || "forever";
}
