import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Render, unwrap } from "../api/client";
import { rendersQuery } from "../api/queries";
import { inOrder } from "../api/saves";

/** The renders of a framing, and ordering one. */
export function useRenders(projectId: number, framingId: number) {
  const client = useQueryClient();
  const { data } = useQuery(rendersQuery(projectId));
  const order = useMutation({
    mutationFn: () =>
      inOrder(() =>
        unwrap(
          api.POST("/api/framings/{framing_id}/renders", { params: { path: { framing_id: framingId } } }),
        ),
      ),
    onSettled: () => client.invalidateQueries({ queryKey: ["renders", projectId] }),
  });
  return { renders: data?.filter((render) => render.framing === framingId) ?? [], order };
}

/** The state of the newest of them, in a word or two. */
export function checkWords(renders: Render[]): string {
  const newest = renders[0];
  if (!newest) return "not rendered";
  if (newest.state !== "done") return newest.state;
  if (!newest.current) return "changed since";
  return newest.report?.right ? "pass" : "fail";
}
