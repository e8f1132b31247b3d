import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type CellAction, unwrap } from "../api/client";
import { refreshFramings, takeInCells } from "../api/queries";

/** So many are changed at a time: others change theirs in between, and the hand sees how far it is. */
const STEP = 60;

type Wanted = { framings: number[]; action: CellAction; label: string };

/** Do something with many cells at once; what was changed can be taken back. */
export function useCells(projectId: number) {
  const client = useQueryClient();
  const send = (framings: number[], action: CellAction) =>
    unwrap(
      api.POST("/api/projects/{project_id}/cells", {
        params: { path: { project_id: projectId } },
        body: { framings, action },
      }),
    );
  const [fraction, setFraction] = useState(0);
  /** What was changed until one step failed stays changed, and can be taken back. */
  const [changed, setChanged] = useState<number[]>([]);

  async function inSteps(framings: number[], action: CellAction) {
    setFraction(0);
    setChanged([]);
    for (let at = 0; at < framings.length; at += STEP) {
      const cells = await send(framings.slice(at, at + STEP), action);
      takeInCells(client, cells);
      setChanged((before) => [...before, ...cells.map(({ id }) => id)]);
      setFraction((at + STEP) / framings.length);
    }
  }

  const onError = () => refreshFramings(client);
  const act = useMutation({
    mutationFn: ({ framings, action }: Wanted) => inSteps(framings, action),
    onError,
    // A rule holds for other cells as well.
    onSuccess: (_, { action }) => action.do === "rule" && refreshFramings(client),
  });
  const undo = useMutation({
    mutationFn: (framings: number[]) => inSteps(framings, { do: "undo" }),
    onError,
    onSuccess: () => act.reset(),
  });
  const over = act.isSuccess || (act.isError && changed.length > 0);
  const done = over && !undo.isPending ? { changed, label: act.variables.label } : null;
  return {
    act: act.mutate,
    done,
    undo: () => done && undo.mutate(done.changed),
    forget: () => act.reset(),
    error: act.error ?? undo.error,
    /** How many cells something is being done with. */
    doing: act.isPending ? act.variables.framings.length : undo.isPending ? undo.variables.length : 0,
    /** How far that is. */
    fraction,
    busy: act.isPending || undo.isPending,
  };
}
