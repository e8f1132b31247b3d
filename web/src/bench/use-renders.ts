import { useQuery } from "@tanstack/react-query";
import { api, type Render } from "../api/client";
import { rendersQuery } from "../api/queries";
import { useSend } from "../api/use-send";
import { useBarsAsked } from "../frames/ask-bars";
import { useBench } from "./state/use-bench";

/** The renders of the framing, newest first. */
export function useRenders(): Render[] {
  const { projectId, framingId } = useBench("projectId", "framingId");
  return useQuery(rendersQuery(projectId)).data?.filter(({ framing }) => framing === framingId) ?? [];
}

/** The newest finished render of the framing. */
export const useFinished = () => useRenders().find(({ state }) => state === "done");

/** Rendering the framing. If bars are undecided it asks about them first. */
export function useRenderFraming() {
  const { projectId, framingId, board, framing, report } = useBench(
    "projectId",
    "framingId",
    "board",
    "framing",
    "report",
  );
  const bars = useBarsAsked(board);
  const { mutate, isPending } = useSend(
    () => api.POST("/api/framings/{framing_id}/renders", { params: { path: { framing_id: framingId } } }),
    { refresh: ["renders", projectId], ordered: true, onMutate: () => report(null), onError: report },
  );
  return {
    render: (then?: () => void) =>
      bars.before([framing.frame], () => {
        mutate();
        then?.();
      }),
    busy: isPending,
    question: bars.question,
  };
}

/** The state of the newest render, in a word or two. */
export function checkWords([newest]: Render[]): string {
  if (!newest) return "not rendered";
  if (newest.state !== "done") return newest.state;
  if (!newest.current) return "changed since";
  return newest.report?.right ? "pass" : "fail";
}
