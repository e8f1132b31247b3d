import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Frame, type FrameRow, type Schemas } from "../api/client";
import { boardQuery, refreshFramings } from "../api/queries";
import { useCalls } from "../api/use-send";
import { useFrameChange } from "../frames/use-frame";
import { lastChange, useUndoOf } from "../history/history";

type Loss = Schemas["LossOut"];
type Done = { text: string; undo: () => void; losses: Loss[] };

/** Changing, removing and moving whole frames of a project, with the way back. */
export function useFrames(projectId: number, frames: FrameRow[]) {
  const client = useQueryClient();
  const put = useFrameChange();
  /** A frame as it is now, with something else of it. */
  const changed = (id: number, fields: Partial<Frame>) => {
    const board = client.getQueryData(boardQuery(projectId).queryKey);
    const { frame, delivery, settings } = board?.frames.find((row) => row.id === id) ?? nothing(id);
    return { id, frame: { ...frame, ...fields }, delivery, settings };
  };
  const path = (id: number) => ({ params: { path: { frame_id: id } } });
  const { mutate, error } = useCalls({ refresh: refreshFramings, ordered: true });
  const { tell, error: undoError, ...notice } = useNotice(projectId);
  function resize(row: FrameRow, size: { width: number; height: number }) {
    const text = `${row.frame.name} is ${size.width}×${size.height} now.`;
    put.mutate(changed(row.id, size), { onSuccess: ({ losses }) => tell(text, losses) });
  }

  return {
    rename: (row: FrameRow, name: string) => put.mutate(changed(row.id, { name })),
    resize,
    remove: (row: FrameRow) =>
      mutate(() => api.DELETE("/api/frames/{frame_id}", path(row.id)), {
        onSuccess: () => tell(`Removed ${row.frame.name}.`),
      }),
    move: (row: FrameRow, by: number) =>
      mutate(() =>
        api.PUT("/api/projects/{project_id}/order", {
          params: { path: { project_id: projectId } },
          body: { frames: moved(frames, row, by) },
        }),
      ),
    restore: (id: number) => mutate(() => api.POST("/api/frames/{frame_id}/restore", path(id))),
    ...notice,
    error: put.error ?? error ?? undoError,
  };
}

/** A notice with an Undo button for the last change. */
function useNotice(projectId: number) {
  const client = useQueryClient();
  const [done, setDone] = useState<Done | null>(null);
  const undoing = useUndoOf(projectId);
  const forget = () => setDone(null);
  async function tell(text: string, losses: Loss[] = []) {
    const change = await lastChange(client, projectId);
    const undo = () => {
      forget();
      undoing.mutate(change ?? 0);
    };
    setDone({ text, undo, losses });
  }
  return { done, tell, forget, error: undoing.error };
}

/** The ids of frames after one of them was moved by so many places. */
function moved(frames: FrameRow[], row: FrameRow, by: number): number[] {
  const ids = frames.map(({ id }) => id);
  const from = ids.indexOf(row.id);
  ids.splice(from + by, 0, ...ids.splice(from, 1));
  return ids;
}

export type Frames = ReturnType<typeof useFrames>;
export type FrameActions = Pick<Frames, "rename" | "resize" | "remove" | "move">;

function nothing(id: number): never {
  throw new Error(`frame ${id} is not on the board`);
}
