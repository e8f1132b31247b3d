import { api } from "../api/client";
import { useCalls } from "../api/use-send";

type Act = "cancel" | "retry" | "pause" | "resume" | "remove";
type Place = "first" | "earlier" | "later" | "last";

/** What people do with one render. */
export function useRender(id: number, projectId: number) {
  const path = { params: { path: { render_id: id } } };
  const { mutate, isPending, error } = useCalls({ refresh: ["renders", projectId] });
  return {
    act: (act: Act) =>
      mutate(() =>
        act === "remove"
          ? api.DELETE("/api/renders/{render_id}", path)
          : api.POST(`/api/renders/{render_id}/${act}`, path),
      ),
    move: (place: Place) =>
      mutate(() => api.POST("/api/renders/{render_id}/move", { ...path, body: { place } })),
    busy: isPending,
    error,
  };
}
