import { useQueryClient } from "@tanstack/react-query";
import { api, unwrap } from "../api/client";
import { materialsQuery, refreshFramings } from "../api/queries";
import { useRemoval } from "./use-removal";

/** Take pictures and captions out of a project, and bring them back. */
export function useMaterialRemoval(projectId: number) {
  const client = useQueryClient();
  const path = (id: number) => ({ material_id: id });
  return useRemoval({
    remove: (id, confirmed) =>
      unwrap(
        api.DELETE("/api/materials/{material_id}", { params: { path: path(id), query: { confirmed } } }),
      ),
    restore: (id) => unwrap(api.POST("/api/materials/{material_id}/restore", { params: { path: path(id) } })),
    refresh: () =>
      Promise.all([
        client.invalidateQueries({ queryKey: materialsQuery(projectId).queryKey }),
        refreshFramings(client),
      ]),
  });
}
