import { useQuery } from "@tanstack/react-query";
import type { Render } from "../api/client";
import { rendersQuery } from "../api/queries";
import { useBench } from "./state/use-bench";

/** The renders of the framing, newest first. */
export function useRenders(): Render[] {
  const { projectId, framingId } = useBench("projectId", "framingId");
  return useQuery(rendersQuery(projectId)).data?.filter(({ framing }) => framing === framingId) ?? [];
}

/** The newest finished render of the framing. */
export const useFinished = () => useRenders().find(({ state }) => state === "done");

/** The state of the newest render, in a word or two. */
export function checkWords([newest]: Render[]): string {
  if (!newest) return "not rendered";
  if (newest.state !== "done") return newest.state;
  if (!newest.current) return "changed since";
  return newest.report?.right ? "pass" : "fail";
}
