import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { CellAction, Treatment } from "../../api/client";
import { versionOf } from "../../api/queries";
import { useCells } from "../../frames/use-cells";
import { Button } from "../../ui/button";
import { Fold } from "../../ui/fold";
import { Note } from "../../ui/note";
import { ProblemNote } from "../../ui/problem-note";
import { TickRow } from "../../ui/tick-row";
import { useFilePicker } from "../../ui/use-file-picker";
import { useBench } from "../state/use-bench";
import { Tile } from "../tile";
import { TileGrid } from "../tiles";
import { treatmentOf, useTreatments } from "./use-treatments";

/** Treatments as small renderings of this clip; choosing one gives it to the framing, and one can be saved. */
export function TreatmentsFold() {
  const { projectId, framing, plan, editor } = useBench("projectId", "framing", "plan", "editor");
  const all = useTreatments(projectId);
  const { treatments, error } = all;
  const client = useQueryClient();
  const cells = useCells(projectId);
  const follows = treatments.find(({ followers }) =>
    followers.some((follower) => follower.framing === framing.id),
  );
  const differs = follows?.followers.find((follower) => follower.framing === framing.id)?.differs ?? [];

  async function give(row: Treatment) {
    await editor.flush();
    const action: CellAction = { do: "treat", treatment: row.treatment, saved: row.id };
    const { id, cell } = framing;
    const seen = { id, version: versionOf(client, framing), movement: cell.movement };
    cells.act({ cells: [seen], action, label: `${row.treatment.name} is applied.` });
  }

  return (
    <Fold title="Treatments" state={follows ? stateOf(follows, differs) : ""} open={Boolean(follows)}>
      <ProblemNote error={error ?? cells.error} />
      {cells.done && cells.done.stopped > 0 && (
        <Note text={cells.done.label} onUndo={cells.undo} onClose={cells.forget} />
      )}
      <TileGrid label="Treatments" columns="grid-cols-3">
        {treatments.map((row) => (
          <Tile
            key={`${row.id} ${row.treatment.name}`}
            title={row.treatment.name}
            plan={{ ...plan, ...partsOf(row) }}
            chosen={row === follows && differs.length === 0}
            onChoose={() => give(row)}
          />
        ))}
      </TileGrid>
      {follows?.id != null && (
        <TreatmentActions {...{ all, follows, id: follows.id }} edited={differs.length > 0} onGive={give} />
      )}
      <SaveTreatment all={all} />
    </Fold>
  );
}

type Treatments = ReturnType<typeof useTreatments>;
type ActionsProps = {
  all: Treatments;
  follows: Treatment;
  id: number;
  /** Whether the framing differs from its treatment. */
  edited: boolean;
  onGive: (row: Treatment) => void;
};

/** Actions on the treatment that the framing uses. */
function TreatmentActions({ all, follows, id, edited, onGive }: ActionsProps) {
  const { plan } = useBench("plan");
  const { treatment } = follows;
  return (
    <div className="flex flex-wrap gap-2">
      {edited && <Button onClick={() => onGive(follows)}>Back to it</Button>}
      {edited && (
        <Button
          title="Framings that use it change too; edited ones stay"
          onClick={() => all.rewrite({ id, treatment: treatmentOf(treatment.name, plan) })}
        >
          Update from this framing
        </Button>
      )}
      <a
        className="self-center text-ochre underline"
        download={`${treatment.name}.json`}
        href={`data:application/json,${encodeURIComponent(JSON.stringify(treatment, null, 2))}`}
      >
        Export
      </a>
      <Button look="subtle" onClick={() => all.remove(id)}>
        Delete
      </Button>
    </div>
  );
}

/** Saving the framing as a treatment, and importing one. */
function SaveTreatment({ all }: { all: Treatments }) {
  const { plan } = useBench("plan");
  const [name, setName] = useState("");
  const [everywhere, setEverywhere] = useState(false);
  const importing = useFilePicker({
    label: "Treatment to import",
    accept: "application/json",
    onFiles: ([file]) => file && all.importOne(file),
  });
  return (
    <form
      className="grid gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (name.trim()) all.save({ treatment: treatmentOf(name.trim(), plan), everywhere });
        setName("");
      }}
    >
      <div className="flex gap-2">
        <input
          aria-label="Name of the treatment"
          placeholder="Name of a new treatment"
          className="min-w-0 grow rounded border border-edge bg-sheet px-2 py-1"
          maxLength={80}
          value={name}
          onKeyDown={(event) => event.stopPropagation()}
          onChange={({ target }) => setName(target.value)}
        />
        <Button type="submit" disabled={!name.trim()}>
          Save
        </Button>
      </div>
      <div className="flex items-baseline justify-between">
        <TickRow ticked={everywhere} onChange={setEverywhere}>
          for all projects
        </TickRow>
        <Button look="link" onClick={importing.pick}>
          Import
        </Button>
      </div>
      {importing.field}
    </form>
  );
}

const partsOf = ({ treatment: { placement, motion, surround, finish } }: Treatment) => ({
  placement,
  motion,
  surround,
  finish,
});

function stateOf({ treatment }: Treatment, differs: string[]): string {
  return differs.length ? `${treatment.name}, but for ${differs.join(", ")}` : treatment.name;
}
