import type { Render } from "../api/client";

/** The result of a framing's last render, as far as board and delivery show it. */
export type Rendered = Pick<Render, "state" | "current" | "done" | "total"> & {
  report: Pick<NonNullable<Render["report"]>, "right"> | null;
};

/** Whether a file is finished and its check failed. */
export const failedCheck = ({ state, report }: Rendered) => state === "done" && report?.right === false;

/** The newest render of each framing; renders come newest first. */
export function newestOf(renders: (Rendered & { framing: number })[]): Map<number, Rendered> {
  const newest = new Map<number, Rendered>();
  for (const render of renders) if (!newest.has(render.framing)) newest.set(render.framing, render);
  return newest;
}

/** The same in few words; nothing where nothing came of it. */
export function renderedInWords(render: Rendered | undefined): string {
  if (!render) return "";
  const { state, current, done, total } = render;
  if (failedCheck(render)) return current ? "check failed" : "check failed, changed since";
  if (state === "done") return current ? "rendered" : "rendered, changed since";
  if (state === "running") return `rendering, ${Math.floor((100 * done) / Math.max(1, total))}%`;
  return { failed: "render failed", queued: "queued", paused: "render paused" }[state] ?? "";
}
