import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { projectsQuery } from "../api/queries";
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
  const client = useQueryClient();
  const { data, error } = useQuery(projectsQuery);
  const [removed, setRemoved] = useState<ProjectLine | null>(null);
  const after = { onSettled: () => client.invalidateQueries({ queryKey: ["projects"] }) };
  const change = useMutation({
    mutationFn: ({ row, ...body }: { row: ProjectLine; name?: string; put_away?: boolean }) =>
      unwrap(api.PATCH("/api/projects/{project_id}", { ...of(row), body })),
    ...after,
  });
  const duplicate = useMutation({
    mutationFn: (row: ProjectLine) => unwrap(api.POST("/api/projects/{project_id}/duplicate", of(row))),
    ...after,
  });
  const remove = useMutation({
    mutationFn: (row: ProjectLine) => unwrap(api.DELETE("/api/projects/{project_id}", of(row))),
    onSuccess: (_, row) => setRemoved(row),
    ...after,
  });
  const restore = useMutation({
    mutationFn: (row: ProjectLine) => unwrap(api.POST("/api/projects/{project_id}/restore", of(row))),
    onSuccess: () => setRemoved(null),
    ...after,
  });
  const leave = useMutation({
    mutationFn: (member_id: number) =>
      unwrap(api.DELETE("/api/members/{member_id}", { params: { path: { member_id } } })),
    ...after,
  });
  return {
    data,
    error: error ?? change.error ?? duplicate.error ?? remove.error ?? restore.error ?? leave.error,
    removed,
    forget: () => setRemoved(null),
    rename: (row: ProjectLine, name: string) => change.mutate({ row, name }),
    putAway: (row: ProjectLine, put_away: boolean) => change.mutate({ row, put_away }),
    duplicate: (row: ProjectLine) => duplicate.isPending || duplicate.mutate(row),
    remove: (row: ProjectLine) => remove.mutate(row),
    leave: ({ membership }: ProjectLine) => membership !== null && leave.mutate(membership),
    undo: () => removed && restore.mutate(removed),
  };
}
