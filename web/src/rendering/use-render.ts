import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, unwrap } from "../api/client";
import { useSend } from "../api/use-send";

type Act = "cancel" | "retry" | "pause" | "resume" | "remove";
type Place = "first" | "earlier" | "later" | "last";

/** What people do with one render. */
export function useRender(id: number, projectId: number) {
  const client = useQueryClient();
  const path = { params: { path: { render_id: id } } };
  const settled = { onSettled: () => client.invalidateQueries({ queryKey: ["renders", projectId] }) };
  const acting = useMutation({
    mutationFn: async (act: Act) => {
      if (act === "remove") return unwrap(api.DELETE("/api/renders/{render_id}", path));
      return unwrap(api.POST(`/api/renders/{render_id}/${act}`, path));
    },
    ...settled,
  });
  const moving = useSend(
    (place: Place) => api.POST("/api/renders/{render_id}/move", { ...path, body: { place } }),
    { ...settled },
  );
  return {
    act: acting.mutate,
    move: moving.mutate,
    busy: acting.isPending || moving.isPending,
    error: acting.error ?? moving.error,
  };
}
