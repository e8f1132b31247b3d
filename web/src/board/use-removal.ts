import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { api, unwrap } from "../api/client";
import { boardQuery, refreshFramings } from "../api/queries";

/** Taking clips out of a project, and bringing them back. */
export function useRemoval(projectId: number) {
  const client = useQueryClient();
  const [last, setLast] = useState<{ id: number; name: string } | null>(null);
  const path = (id: number) => ({ params: { path: { footage_id: id } } });
  const settled = { onSettled: () => refreshFramings(client) };
  const removal = useMutation({
    mutationFn: (id: number) => unwrap(api.DELETE("/api/footage/{footage_id}", path(id))),
    ...settled,
  });
  const restoring = useMutation({
    mutationFn: (id: number) => unwrap(api.POST("/api/footage/{footage_id}/restore", path(id))),
    ...settled,
  });

  const { mutate } = removal;
  const remove = useCallback(
    (id: number) => {
      const clip = client
        .getQueryData(boardQuery(projectId).queryKey)
        ?.footage.find((footage) => footage.id === id);
      mutate(id, { onSuccess: () => setLast({ id, name: clip?.name ?? "the clip" }) });
    },
    [client, projectId, mutate],
  );

  function restore(id: number) {
    restoring.mutate(id, { onSuccess: () => setLast((now) => (now?.id === id ? null : now)) });
  }

  return {
    remove,
    restore,
    last,
    undo: () => last && restore(last.id),
    forget: () => setLast(null),
    error: removal.error ?? restoring.error,
  };
}
