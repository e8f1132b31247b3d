import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, type CellAction, unwrap } from "../api/client";
import { refreshFramings } from "../api/queries";

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
  const settled = { onSettled: () => refreshFramings(client) };
  const act = useMutation({
    mutationFn: ({ framings, action }: Wanted) => send(framings, action),
    ...settled,
  });
  const undo = useMutation({
    mutationFn: (framings: number[]) => send(framings, { do: "undo" }),
    onSuccess: () => act.reset(),
    ...settled,
  });
  const done = act.data && act.variables ? { changed: act.data, label: act.variables.label } : null;
  return {
    act: act.mutate,
    done,
    undo: () => done && undo.mutate(done.changed),
    forget: () => act.reset(),
    error: act.error ?? undo.error,
    busy: act.isPending || undo.isPending,
  };
}
