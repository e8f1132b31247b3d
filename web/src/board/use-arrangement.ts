import { useQueryClient } from "@tanstack/react-query";
import { api, type Board } from "../api/client";
import { boardQuery, refreshFramings } from "../api/queries";
import { useSend } from "../api/use-send";

/** Putting the clips of a project in an order by hand. It is seen at once. */
export function useArrangement(projectId: number) {
  const client = useQueryClient();
  const { queryKey } = boardQuery(projectId);
  const put = useSend(
    (footage: number[]) =>
      api.PUT("/api/projects/{project_id}/order", {
        params: { path: { project_id: projectId } },
        body: { footage },
      }),
    {
      refresh: refreshFramings,
      ordered: true,
      onMutate: (ids) => {
        // An answer to an earlier request would bring back the old order.
        client.cancelQueries({ queryKey });
        client.setQueryData<Board>(queryKey, (board) => board && { ...board, footage: sorted(board, ids) });
      },
    },
  );
  return {
    /** Put a clip before another, or, without one, last. */
    before: (id: number, other: number | null) => {
      const board = client.getQueryData<Board>(queryKey);
      if (board) put.mutate(putBefore(ids(board), id, other));
    },
    error: put.error,
  };
}

const ids = ({ footage }: Board) => footage.map(({ id }) => id);
const sorted = ({ footage }: Board, order: number[]) =>
  order.flatMap((id) => footage.filter((clip) => clip.id === id));

/** One of some taken out and put before another; last where there is none. */
export function putBefore(all: number[], one: number, other: number | null): number[] {
  if (one === other) return all;
  const rest = all.filter((id) => id !== one);
  const at = other === null ? rest.length : rest.indexOf(other);
  return rest.toSpliced(at < 0 ? rest.length : at, 0, one);
}
