import { api, type Footage } from "../api/client";
import { refreshFramings } from "../api/queries";
import { useSend } from "../api/use-send";

/** What could not be found out about a clip, each with its reason, to be tried again. */
export function FailedAnalyses({ footage }: { footage: Footage }) {
  const { mutate, isPending } = useSend(
    (analysis_id: number) =>
      api.POST("/api/analyses/{analysis_id}/{verb}", { params: { path: { analysis_id, verb: "retry" } } }),
    { refresh: refreshFramings },
  );
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
