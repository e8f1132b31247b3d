import type { Render } from "../api/client";

/** The progress of all renders in a word; empty if all are finished. */
export function progressOf(renders: Render[]): string | null {
  const working = renders.filter(({ state }) => state === "running");
  const total = working.reduce((sum, render) => sum + render.total, 0);
  if (!total) return null;
  return `${Math.floor((100 * working.reduce((sum, render) => sum + render.done, 0)) / total)}%`;
}
