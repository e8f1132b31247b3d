import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Cell, type CellAction, unwrap } from "../api/client";
import { refreshFramings, takeInCells } from "../api/queries";

/** So many are changed at a time: others change theirs in between, and the hand sees how far it is. */
const STEP = 60;

type Seen = Pick<Cell, "id" | "version" | "movement">;
type Wanted = { cells: Seen[]; action: CellAction; label: string };

/** Change many cells at once; the change can be undone. */
export function useCells(projectId: number) {
  const client = useQueryClient();
  const send = (cells: Seen[], action: CellAction) =>
    unwrap(
      api.POST("/api/projects/{project_id}/cells", {
        params: { path: { project_id: projectId } },
        body: { framings: cells.map(({ id }) => id), versions: cells.map(({ version }) => version), action },
      }),
    );
  const [fraction, setFraction] = useState(0);
  /** Cells changed before one failed stay changed, and can be undone. */
  const [changed, setChanged] = useState<Cell[]>([]);

  async function inSteps(cells: Seen[], action: CellAction) {
    setFraction(0);
    setChanged([]);
    let count = 0;
    for (let at = 0; at < cells.length; at += STEP) {
      const next = await send(cells.slice(at, at + STEP), action);
      takeInCells(client, next);
      setChanged((before) => [...before, ...next]);
      setFraction((at + STEP) / cells.length);
      count += next.length;
    }
    return count;
  }

  const onError = () => refreshFramings(client);
  const act = useMutation({
    mutationFn: ({ cells, action }: Wanted) => inSteps(cells, action),
    onError,
    // A rule holds for other cells as well.
    onSuccess: (_, { action }) => action.do === "rule" && refreshFramings(client),
  });
  const undo = useMutation({
    mutationFn: (cells: Seen[]) => inSteps(cells, { do: "undo" }),
    onError,
    onSuccess: (count, cells) => {
      act.reset();
      if (count < cells.length) refreshFramings(client);
    },
  });
  const over = act.isSuccess || (act.isError && changed.length > 0);
  const stopped = over ? stoppedBy(act.variables, changed) : 0;
  const label = over
    ? [act.variables.label, ...movesNoMore(stopped, act.variables.cells.length)].join(" ")
    : "";
  const done = over && !undo.isPending ? { changed, label, stopped } : null;
  return {
    act: act.mutate,
    done,
    undo: () => done && undo.mutate(done.changed),
    forget: () => {
      act.reset();
      undo.reset();
    },
    /** How many cells Undo left alone, because another person changed them after this action. */
    left: undo.isSuccess && act.isIdle ? undo.variables.length - undo.data : 0,
    error: act.error ?? undo.error,
    /** How many cells something is being done with. */
    doing: act.isPending ? act.variables.cells.length : undo.isPending ? undo.variables.length : 0,
    /** How far that is. */
    fraction,
    busy: act.isPending || undo.isPending,
  };
}

/** How many cells moved before an action and do not move after it, unless the action was meant to do that. */
function stoppedBy({ cells, action }: Wanted, changed: Cell[]): number {
  if (action.do === "motion") return 0;
  const moved = new Set(cells.filter(({ movement }) => movement).map(({ id }) => id));
  return changed.filter(({ id, movement }) => moved.has(id) && !movement).length;
}

function movesNoMore(count: number, of: number): string[] {
  if (count === 0) return [];
  const which = of === 1 ? "It" : count === 1 ? "One of them" : `${count} of them`;
  return [`${which} moved or followed the subject before and static now.`];
}
