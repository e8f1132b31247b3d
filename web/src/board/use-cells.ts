import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, type CellAction, unwrap } from "../api/client";
import { refreshFramings, takeInCells } from "../api/queries";

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
  const onError = () => refreshFramings(client);
  const act = useMutation({
    mutationFn: ({ framings, action }: Wanted) => send(framings, action),
    onError,
    // A rule holds for other cells as well.
    onSuccess: (cells, { action }) =>
      action.do === "rule" ? refreshFramings(client) : takeInCells(client, cells),
  });
  const undo = useMutation({
    mutationFn: (framings: number[]) => send(framings, { do: "undo" }),
    onError,
    onSuccess: (cells) => {
      takeInCells(client, cells);
      act.reset();
    },
  });
  const done =
    act.data && act.variables ? { changed: act.data.map(({ id }) => id), label: act.variables.label } : null;
  return {
    act: act.mutate,
    done,
    undo: () => done && undo.mutate(done.changed),
    forget: () => act.reset(),
    error: act.error ?? undo.error,
    /** How many cells something is being done with. */
    doing: act.isPending ? act.variables.framings.length : 0,
    busy: act.isPending || undo.isPending,
  };
}
