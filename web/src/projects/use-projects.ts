import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas } from "../api/client";
import { projectsQuery } from "../api/queries";
import { useCalls } from "../api/use-send";
import { hasWords } from "../ui/words";

export type ProjectLine = Schemas["ProjectLine"];
export type Order = "newest" | "oldest" | "name";

/** Projects that match a search, in an order; names are sorted by the reader's language. */
export function found(projects: ProjectLine[], search: string, order: Order): ProjectLine[] {
  const by: Record<Order, (one: ProjectLine, other: ProjectLine) => number> = {
    newest: (one, other) => other.created.localeCompare(one.created),
    oldest: (one, other) => one.created.localeCompare(other.created),
    name: (one, other) => one.name.localeCompare(other.name, undefined, { numeric: true }),
  };
  return projects.filter(({ name }) => hasWords(name, search)).sort(by[order]);
}

const of = ({ id }: ProjectLine) => ({ params: { path: { project_id: id } } });

/** The projects of the visitor, and what can be done with them. */
export function useProjects() {
  const { data, error } = useQuery(projectsQuery);
  const [removed, setRemoved] = useState<ProjectLine | null>(null);
  const { mutate, error: failed, isPending } = useCalls({ refresh: ["projects"] });
  const change = (row: ProjectLine, body: { name?: string; put_away?: boolean }) =>
    mutate(() => api.PATCH("/api/projects/{project_id}", { ...of(row), body }));
  return {
    data,
    error: error ?? failed,
    removed,
    forget: () => setRemoved(null),
    rename: (row: ProjectLine, name: string) => change(row, { name }),
    putAway: (row: ProjectLine, put_away: boolean) => change(row, { put_away }),
    duplicate: (row: ProjectLine) =>
      isPending || mutate(() => api.POST("/api/projects/{project_id}/duplicate", of(row))),
    remove: (row: ProjectLine) =>
      mutate(() => api.DELETE("/api/projects/{project_id}", of(row)), { onSuccess: () => setRemoved(row) }),
    leave: ({ membership: member_id }: ProjectLine) =>
      member_id !== null &&
      mutate(() => api.DELETE("/api/members/{member_id}", { params: { path: { member_id } } })),
    undo: () =>
      removed &&
      mutate(() => api.POST("/api/projects/{project_id}/restore", of(removed)), {
        onSuccess: () => setRemoved(null),
      }),
  };
}
