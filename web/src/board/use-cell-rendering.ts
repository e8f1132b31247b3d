import { useNavigate } from "react-router";
import type { Cell } from "../api/client";
import { useRendering } from "../rendering/use-rendering";

/** Rendering cells of a board; then all renders of the project are shown. */
export function useCellRendering(projectId: number) {
  const navigate = useNavigate();
  const rendering = useRendering(projectId);
  const render = (cells: Cell[]) =>
    rendering.render(
      cells.map(({ id }) => id),
      () => navigate(`/projects/${projectId}/renders`),
    );
  return { ...rendering, render };
}

export type CellRendering = ReturnType<typeof useCellRendering>;
