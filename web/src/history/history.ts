import { type QueryClient, queryOptions, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { create } from "zustand";
import { api, type Schemas, unwrap } from "../api/client";
import { takeIn, takeInCells } from "../api/queries";
import { inOrder } from "../api/saves";

export type Way = "undo" | "redo";
type Walked = Schemas["WalkedOut"];
/** The framing on the page, and a change to undo or redo; by default the next one. */
type At = { framing?: number; change?: number };

export const historyQuery = (projectId: number) =>
  queryOptions({
    queryKey: ["history", projectId],
    queryFn: () =>
      unwrap(api.GET("/api/projects/{project_id}/history", { params: { path: { project_id: projectId } } })),
  });

/** The last undone or redone change outside the framing on the page; and a framing that it removed. */
export const useWalked = create<{ text: string | null; gone: number | null }>(() => ({
  text: null,
  gone: null,
}));

/** Undo or redo in a project, and take in what that changed. */
export async function walk(client: QueryClient, projectId: number, way: Way, at: At = {}): Promise<Walked> {
  const given = { params: { path: { project_id: projectId } }, body: at };
  const walked = await unwrap(
    way === "undo"
      ? api.POST("/api/projects/{project_id}/undo", given)
      : api.POST("/api/projects/{project_id}/redo", given),
  );
  client.setQueryData(historyQuery(projectId).queryKey, walked.history);
  if (walked.framing) takeIn(client, walked.framing);
  if (walked.cells)
    takeInCells(
      client,
      walked.cells.filter(({ id }) => id !== walked.framing?.id),
    );
  else client.invalidateQueries({ predicate: ({ queryKey }) => queryKey[0] !== "history" });
  const here = walked.cells?.length === 1 && walked.cells[0]?.id === at.framing;
  const gone = walked.framing ? null : (at.framing ?? null);
  useWalked.setState({ text: here ? null : said(way, walked), gone });
  return walked;
}

function said(way: Way, { done, left }: Walked): string | null {
  if (!done) return null;
  const except = left > 0 ? `, except ${left} changed by others since` : "";
  return `${way === "undo" ? "Undone" : "Redone"}: ${named(done)}${except}.`;
}

/** The label of a change, with its place unless that is the framing on the page. */
const named = ({ label, where, framing }: Schemas["ChangeOut"], here?: number) =>
  where && (here === undefined || framing !== here) ? `${label} (${where})` : label;

/** The history of a project: the next change to undo and to redo, and doing so. */
export function useHistory(projectId: number, framingId?: number) {
  const client = useQueryClient();
  const { data } = useQuery(historyQuery(projectId));
  const walking = useMutation({
    mutationFn: (way: Way) => inOrder(() => walk(client, projectId, way)),
  });
  return {
    undo: data?.undo ? named(data.undo, framingId) : null,
    redo: data?.redo ? named(data.redo, framingId) : null,
    walk: walking.mutate,
    error: walking.error,
  };
}

/** Undoing one change, as the notice about it offers. */
export function useUndoOf(projectId: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (change: number) => inOrder(() => walk(client, projectId, "undo", { change })),
  });
}

/** The change that Undo would apply to now: right after a change, that change. */
export async function lastChange(client: QueryClient, projectId: number): Promise<number | undefined> {
  const { undo } = await client.fetchQuery({ ...historyQuery(projectId), staleTime: 0 });
  return undo?.id;
}
