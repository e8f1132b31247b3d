import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Frame, type FrameRow, type Schemas, unwrap } from "../api/client";
import { boardQuery, refreshFramings } from "../api/queries";
import { inOrder } from "../api/saves";
import { useFrameChange } from "../frames/use-frame";
import { lastChange, useUndoOf } from "../history/history";

type Loss = Schemas["LossOut"];
type Done = { text: string; undo: () => void; losses: Loss[] };

/** Changing, removing and moving whole frames of a project, with the way back. */
export function useFrames(projectId: number, frames: FrameRow[]) {
  const client = useQueryClient();
  const [done, setDone] = useState<Done | null>(null);
  const settled = { onSettled: () => refreshFramings(client) };
  const put = useFrameChange();
  /** A frame as it is now, with something else of it. */
  const changed = (id: number, fields: Partial<Frame>) => {
    const board = client.getQueryData(boardQuery(projectId).queryKey);
    const { frame, delivery, settings } = board?.frames.find((row) => row.id === id) ?? nothing(id);
    return { id, frame: { ...frame, ...fields }, delivery, settings };
  };
  const path = (id: number) => ({ params: { path: { frame_id: id } } });
  const removal = useMutation({
    mutationFn: (id: number) => inOrder(() => unwrap(api.DELETE("/api/frames/{frame_id}", path(id)))),
    ...settled,
  });
  const restoring = useMutation({
    mutationFn: (id: number) => inOrder(() => unwrap(api.POST("/api/frames/{frame_id}/restore", path(id)))),
    ...settled,
  });
  const undoing = useUndoOf(projectId);
  const order = useMutation({
    mutationFn: (ids: number[]) =>
      inOrder(() =>
        unwrap(
          api.PUT("/api/projects/{project_id}/order", {
            params: { path: { project_id: projectId } },
            body: { frames: ids },
          }),
        ),
      ),
    ...settled,
  });

  function rename(row: FrameRow, name: string) {
    put.mutate(changed(row.id, { name }));
  }

  /** Show a notice with an Undo button for the last change. */
  async function tell(text: string, losses: Loss[] = []) {
    const change = await lastChange(client, projectId);
    const undo = () => {
      setDone(null);
      undoing.mutate(change ?? 0);
    };
    setDone({ text, undo, losses });
  }

  function resize(row: FrameRow, size: { width: number; height: number }) {
    const text = `${row.frame.name} is ${size.width}×${size.height} now.`;
    put.mutate(changed(row.id, size), { onSuccess: ({ losses }) => tell(text, losses) });
  }

  function remove(row: FrameRow) {
    removal.mutate(row.id, { onSuccess: () => tell(`Removed ${row.frame.name}.`) });
  }

  function move(row: FrameRow, by: number) {
    const ids = frames.map(({ id }) => id);
    const at = ids.indexOf(row.id);
    ids.splice(at, 1);
    ids.splice(at + by, 0, row.id);
    order.mutate(ids);
  }

  return {
    rename,
    resize,
    remove,
    move,
    restore: restoring.mutate,
    done,
    forget: () => setDone(null),
    error: put.error ?? removal.error ?? restoring.error ?? order.error ?? undoing.error,
  };
}

export type Frames = ReturnType<typeof useFrames>;
export type FrameActions = Pick<Frames, "rename" | "resize" | "remove" | "move">;

function nothing(id: number): never {
  throw new Error(`frame ${id} is not on the board`);
}
