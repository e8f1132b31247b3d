import { useEffect } from "react";
import { useLocation } from "react-router";

const key = (projectId: number) => `board ${projectId}`;

/** Keep how the board is filtered, sorted and selected, for as long as the tab is open. */
export function useLeftBoard(projectId: number) {
  const { search } = useLocation();
  useEffect(() => sessionStorage.setItem(key(projectId), search), [projectId, search]);
}

/** The address of a board as it was left. */
export const leftBoard = (projectId: number) =>
  `/projects/${projectId}${sessionStorage.getItem(key(projectId)) ?? ""}`;
