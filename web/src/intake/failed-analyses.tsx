import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, type Footage, unwrap } from "../api/client";
import { refreshFramings } from "../api/queries";

/** What could not be found out about a clip, each with its reason, to be tried again. */
export function FailedAnalyses({ footage }: { footage: Footage }) {
  const client = useQueryClient();
  const { mutate, isPending } = useMutation({
    mutationFn: (analysis_id: number) =>
      unwrap(
        api.POST("/api/analyses/{analysis_id}/{verb}", { params: { path: { analysis_id, verb: "retry" } } }),
      ),
    onSettled: () => refreshFramings(client),
  });
  return footage.analyses
    .filter(({ state }) => state === "failed" || state === "cancelled")
    .map(({ id, title, problem }) => (
      <p key={id} className="text-rust">
        {title}: {problem || "not looked for."}{" "}
        <button type="button" className="underline" disabled={isPending} onClick={() => mutate(id)}>
          Try again
        </button>
      </p>
    ));
}
