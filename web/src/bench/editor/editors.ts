import type { QueryClient } from "@tanstack/react-query";
import { api, type Framing, unwrap } from "../../api/client";
import { framingQuery, takeIn } from "../../api/queries";
import { enqueue, storeBefore } from "../../api/saves";
import { historyQuery, walk } from "../../history/history";
import { PlanEditor, type Unstored } from "./plan-editor";

const LEFT = "unstored";

const editors = new Map<number, { project: number; editor: PlanEditor }>();
const all = () => [...editors.values()].map(({ editor }) => editor);
storeBefore(() => Promise.all(all().map((editor) => editor.flush())));

/** The editor of a framing. It outlives the page that shows it, to store the edits made there. */
export function editorOf(client: QueryClient, projectId: number, framingId: number): PlanEditor {
  const known = editors.get(framingId);
  if (known) return known.editor;
  const params = { path: { framing_id: framingId } };
  const load = () => unwrap(api.GET("/api/framings/{framing_id}", { params }));
  const made = new PlanEditor({
    stored: () => client.getQueryData<Framing>(framingQuery(framingId).queryKey),
    load,
    save: async (steps, version, { keepalive }) => {
      const body = { steps, version };
      const send = () => unwrap(api.PUT("/api/framings/{framing_id}/design", { params, body, keepalive }));
      if (keepalive) return (await send()).framing;
      const { framing, history } = await enqueue(send);
      client.setQueryData(historyQuery(projectId).queryKey, history);
      return framing;
    },
    walk: (way) => enqueue(() => walk(client, projectId, way, { framing: framingId })),
    takeIn: (framing) => takeIn(client, framing),
  });
  editors.set(framingId, { project: projectId, editor: made });
  return made;
}

/** Whether any change is not stored yet, or conflicts with a change made elsewhere. */
export function unsaved(): boolean {
  return all().some(({ store }) => store.getState().busy || store.getState().conflict);
}

/** Send unstored changes while the page closes; the next page in this tab checks that they arrived. */
export function leaveAll() {
  const left = [...editors].flatMap(([id, { project, editor }]) => {
    const unstored = editor.leave();
    return unstored ? [[project, id, unstored]] : [];
  });
  if (left.length > 0) sessionStorage.setItem(LEFT, JSON.stringify(left));
}

/** Forget leftover changes: the page that left them continues with them. */
export const forgetLeft = () => sessionStorage.removeItem(LEFT);

/** Go on with what the page before this one could not store. */
export function resumeAll(client: QueryClient) {
  const left = JSON.parse(sessionStorage.getItem(LEFT) ?? "[]") as [number, number, Unstored][];
  forgetLeft();
  for (const [project, id, unstored] of left) editorOf(client, project, id).resume(unstored);
}
