import { useNavigate } from "react-router";
import { api, type Board, type Cell } from "../api/client";
import { useSend } from "../api/use-send";
import { useBarsAsked } from "../frames/ask-bars";

/** Rendering many cells of a board. If bars are undecided it asks about them first. */
export function useRenderMany(board: Board) {
  const navigate = useNavigate();
  const bars = useBarsAsked(board);
  const { mutate, isPending, error } = useSend(
    (framings: number[]) =>
      api.POST("/api/projects/{project_id}/renders", {
        params: { path: { project_id: board.id } },
        body: { framings },
      }),
    { refresh: ["renders", board.id], onSuccess: () => navigate(`/projects/${board.id}/renders`) },
  );
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
