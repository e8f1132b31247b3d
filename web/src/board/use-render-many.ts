import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { api, type Board, type Cell, unwrap } from "../api/client";
import { useBarsAsked } from "../frames/ask-bars";

/** Rendering many cells of a board. If bars are undecided it asks about them first. */
export function useRenderMany(board: Board) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const bars = useBarsAsked(board);
  const { mutate, isPending, error } = useMutation({
    mutationFn: (framings: number[]) =>
      unwrap(
        api.POST("/api/projects/{project_id}/renders", {
          params: { path: { project_id: board.id } },
          body: { framings },
        }),
      ),
    onSuccess: () => navigate(`/projects/${board.id}/renders`),
    onSettled: () => client.invalidateQueries({ queryKey: ["renders", board.id] }),
  });
  return {
    render: (cells: Cell[]) =>
      bars.before(
        cells.map(({ frame }) => frame),
        () => mutate(cells.map(({ id }) => id)),
      ),
    busy: isPending,
    error,
    question: bars.question,
  };
}

export type RenderMany = ReturnType<typeof useRenderMany>;
