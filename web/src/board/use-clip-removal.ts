import { useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { api, unwrap } from "../api/client";
import { boardQuery, refreshFramings } from "../api/queries";
import { useRemoval } from "../removal/use-removal";

/** Take clips out of a project, and bring them back. */
export function useClipRemoval(projectId: number) {
  const client = useQueryClient();
  const path = (id: number) => ({ footage_id: id });
  const removal = useRemoval({
    remove: (id, confirmed) =>
      unwrap(api.DELETE("/api/footage/{footage_id}", { params: { path: path(id), query: { confirmed } } })),
    restore: (id) => unwrap(api.POST("/api/footage/{footage_id}/restore", { params: { path: path(id) } })),
    refresh: () => refreshFramings(client),
  });
  const { remove: start } = removal;
  const remove = useCallback(
    (id: number) => {
      const clips = client.getQueryData(boardQuery(projectId).queryKey)?.footage ?? [];
      start({ id, name: clips.find((clip) => clip.id === id)?.name ?? "the clip" });
    },
    [client, projectId, start],
  );
  return { ...removal, remove };
}
