import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Cell, type CellAction, unwrap } from "../api/client";
import { refreshFramings, takeInCells } from "../api/queries";
import { inOrder } from "../api/saves";
import { lastChange, useUndoOf } from "../history/history";

/** So many are changed at a time: others change theirs in between, and the hand sees how far it is. */
const STEP = 60;

type Seen = Pick<Cell, "id" | "version" | "movement">;
type Wanted = { cells: Seen[]; action: CellAction; label: string };

/** Change many cells at once; the change can be undone. */
export function useCells(projectId: number) {
  const client = useQueryClient();
  const { inSteps, fraction, changed } = useSteps(projectId);
  const act = useMutation({
    mutationFn: (wanted: Wanted) => inOrder(() => inSteps(wanted)),
    onError: () => refreshFramings(client),
    // A rule holds for other cells as well.
    onSuccess: (_, { action }) => action.do === "rule" && refreshFramings(client),
  });
  const undo = useUndoOf(projectId);
  const over = act.isSuccess || (act.isError && changed.length > 0);
  const stopped = over ? stoppedBy(act.variables, changed) : 0;
  const label = over
    ? [act.variables.label, ...movesNoMore(stopped, act.variables.cells.length)].join(" ")
    : "";
  const done = over && !undo.isPending ? { changed, label, stopped } : null;
  return {
    act: act.mutate,
    done,
    undo: async () =>
      undo.mutate(act.data ?? (await lastChange(client, projectId)) ?? 0, { onSuccess: act.reset }),
    forget: act.reset,
    error: act.error ?? undo.error,
    /** How many cells something is being done with. */
    doing: act.isPending ? act.variables.cells.length : 0,
    /** How far that is. */
    fraction,
    busy: act.isPending || undo.isPending,
  };
}

/** Sending a change of many cells in several requests, which are one change in the history. */
function useSteps(projectId: number) {
  const client = useQueryClient();
  const send = (cells: Seen[], change: { action: CellAction; label: string; batch: string }) =>
    unwrap(
      api.POST("/api/projects/{project_id}/cells", {
        params: { path: { project_id: projectId } },
        body: {
          framings: cells.map(({ id }) => id),
          versions: cells.map(({ version }) => version),
          ...change,
        },
      }),
    );
  const [fraction, setFraction] = useState(0);
  /** Cells changed before one failed stay changed, and can be undone. */
  const [changed, setChanged] = useState<Cell[]>([]);

  /** The change that it is in the history. */
  async function inSteps({ cells, action, label }: Wanted) {
    setFraction(0);
    setChanged([]);
    const change = { action, label, batch: crypto.getRandomValues(new Uint32Array(2)).join("-") };
    for (let at = 0; at < cells.length; at += STEP) {
      const next = await send(cells.slice(at, at + STEP), change);
      takeInCells(client, next);
      setChanged((before) => [...before, ...next]);
      setFraction((at + STEP) / cells.length);
    }
    return lastChange(client, projectId);
  }

  return { inSteps, fraction, changed };
}

export type CellChanges = ReturnType<typeof useCells>;

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
