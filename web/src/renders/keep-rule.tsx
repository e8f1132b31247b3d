import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api } from "../api/client";
import { queueQuery } from "../api/queries";
import { useSend } from "../api/use-send";
import { megabytes } from "../rendering/words";
import { Button } from "../ui/button";
import { Fold } from "../ui/fold";
import { NumberField } from "../ui/number-field";
import { ProblemNote } from "../ui/problem-note";

type Rule = { days: number | null; gigabytes: number | null };

/** How long finished files are kept. The files that a setting would delete are listed before it is saved. */
export function KeepRule({ projectId }: { projectId: number }) {
  const { data: queue } = useQuery(queueQuery(projectId));
  const { drafted, draft, drop, due, save, error } = useDraft(projectId);
  if (!queue) return null;
  const { kept } = queue;
  const rule: Rule = drafted ?? { days: kept.days, gigabytes: kept.gigabytes };
  const change = (fields: Partial<Rule>) => draft({ ...rule, ...fields });

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
          onCommit={(days) => change({ days: Math.round(days) || null })}
        />
        <span>and all of them up to</span>
        <NumberField
          label="Gigabytes of all files together; 0 for no limit"
          {...{ unit: "GB", low: 0, high: 1_000_000, step: 10, decimals: 3 }}
          className="w-28"
          value={rule.gigabytes ?? 0}
          onCommit={(gigabytes) => change({ gigabytes: gigabytes || null })}
        />
        <span className="text-soft">0 keeps them forever.</span>
      </div>
      {drafted && <Confirm due={due} onCancel={drop} onSave={save} />}
      {!drafted && kept.next_due && (
        <p className="text-soft">
          The next file is deleted on {new Date(kept.next_due).toLocaleDateString()}.
        </p>
      )}
      <ProblemNote error={error} />
    </Fold>
  );
}

/** A rule that is being written, and what it would delete. */
function useDraft(projectId: number) {
  const [drafted, setDrafted] = useState<Rule | null>(null);
  const params = { path: { project_id: projectId } };
  const ask = useSend((body: Rule) => api.POST("/api/projects/{project_id}/kept", { params, body }));
  function drop() {
    setDrafted(null);
    ask.reset();
  }
  const set = useSend((body: Rule) => api.PUT("/api/projects/{project_id}/kept", { params, body }), {
    refresh: ["renders", projectId],
    onSettled: drop,
  });
  return {
    drafted,
    drop,
    draft(rule: Rule) {
      setDrafted(rule);
      ask.mutate(rule);
    },
    due: ask.data,
    save: drafted && ask.data && !set.isPending ? () => set.mutate(drafted) : null,
    error: ask.error ?? set.error,
  };
}

type Due = { files: number; due: number; due_bytes: number };
type ConfirmProps = { due: Due | undefined; onCancel: () => void; onSave: (() => void) | null };

/** What a rule takes away now, and whether to save it. */
const Confirm = ({ due, onCancel, onSave }: ConfirmProps) => (
  <div className="flex items-center gap-3">
    <p className={`grow ${due?.due ? "text-rust" : ""}`}>
      {due?.due === 0 && "This takes nothing away now."}
      {due !== undefined &&
        due.due > 0 &&
        `This takes ${due.due} of ${due.files} files away now, ${megabytes(due.due_bytes)}.`}
    </p>
    <Button look="quiet" onClick={onCancel}>
      Cancel
    </Button>
    <Button look="main" disabled={!onSave} onClick={() => onSave?.()}>
      Save
    </Button>
  </div>
);

function summary({ days, gigabytes }: Rule): string {
  const parts = [days !== null && `${days} days`, gigabytes !== null && `up to ${gigabytes} GB`];
  return parts.filter(Boolean).join(", ") || "forever";
}
