import type { QueryClient } from "@tanstack/react-query";
import { api, type Framing, unwrap } from "../../api/client";
import { framingQuery, takeIn } from "../../api/queries";
import { PlanEditor } from "./plan-editor";

const editors = new Map<number, PlanEditor>();

/** The one editor of a framing. It outlives the page that shows it, until all that was done is stored. */
export function editorOf(client: QueryClient, framingId: number): PlanEditor {
  const known = editors.get(framingId);
  if (known) return known;
  const params = { path: { framing_id: framingId } };
  const load = () => unwrap(api.GET("/api/framings/{framing_id}", { params }));
  const made = new PlanEditor({
    stored: () => client.getQueryData<Framing>(framingQuery(framingId).queryKey),
    load,
    save: ({ design, label }, version, { keepalive }) =>
      unwrap(
        api.PUT("/api/framings/{framing_id}/design", {
          params,
          body: { design, label, version },
          keepalive,
        }),
      ),
    undo: (version) => unwrap(api.POST("/api/framings/{framing_id}/undo", { params, body: { version } })),
    redo: (version) => unwrap(api.POST("/api/framings/{framing_id}/redo", { params, body: { version } })),
    takeIn: (framing) => takeIn(client, framing),
  });
  editors.set(framingId, made);
  return made;
}

/** Let go of an editor that nobody looks at; what it still has to store it stores. */
export async function letGo(framingId: number) {
  const editor = editors.get(framingId);
  await editor?.flush();
  const state = editor?.store.getState();
  if (editor && state && !state.busy && !state.conflict) editors.delete(framingId);
}

/** Whether anything that was done is not stored yet. */
export function unsaved(): boolean {
  return [...editors.values()].some(({ store }) => store.getState().busy);
}

/** Send what is not stored yet while the page goes away. */
export function leaveAll() {
  for (const editor of editors.values()) editor.leave();
}
