import { type QueryClient, useMutation, useQueryClient } from "@tanstack/react-query";
import {
  api,
  type Board,
  type Frame,
  type FrameRow,
  type Schemas,
  type Settings,
  unwrap,
} from "../api/client";
import { refreshFramings } from "../api/queries";
import { inOrder } from "../api/saves";

type Body = Pick<FrameRow, "frame" | "delivery" | "settings">;

/** Changing a frame, one after another; the board has it with the answer. */
export function frameChange(client: QueryClient) {
  return {
    mutationFn: ({ id, ...body }: Body & { id: number }) =>
      inOrder(() => unwrap(api.PUT("/api/frames/{frame_id}", { params: { path: { frame_id: id } }, body }))),
    // The question before rendering depends on it: it is known with the answer, without fetching everything again.
    onSuccess: ({ losses: _, ...changed }: Schemas["FrameChanged"]) => {
      client.setQueriesData<Board>(
        { queryKey: ["board"] },
        (board) =>
          board && { ...board, frames: board.frames.map((one) => (one.id === changed.id ? changed : one)) },
      );
    },
    onSettled: () => refreshFramings(client),
  };
}

/** Changing a frame of the project for every clip that goes into it. */
export function useFrame(row: FrameRow) {
  const client = useQueryClient();
  const put = useMutation(frameChange(client));
  const { id } = row;
  // A change builds on the previous one, even if that is still being saved.
  const { frame, delivery, settings } = put.isPending ? put.variables : row;
  return {
    set: (fields: Partial<Frame>) => put.mutate({ id, frame: { ...frame, ...fields }, delivery, settings }),
    ask: (fields: Partial<FrameRow["delivery"]>) =>
      put.mutate({ id, frame, delivery: { ...delivery, ...fields }, settings }),
    write: (fields: Partial<Settings>) =>
      put.mutate({ id, frame, delivery, settings: { ...settings, ...fields } }),
    error: put.error,
  };
}
