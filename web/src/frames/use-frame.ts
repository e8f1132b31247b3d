import { api, type Frame, type FrameRow, type Settings, unwrap } from "../api/client";
import { useChange, withOne } from "./use-change";

type Body = Pick<FrameRow, "frame" | "delivery" | "settings">;

/** Changing frames of a project for every clip that goes into them. */
export const useFrameChange = () =>
  useChange(
    ({ id, ...body }: Body & { id: number }) =>
      unwrap(api.PUT("/api/frames/{frame_id}", { params: { path: { frame_id: id } }, body })),
    (board, { id, ...fields }) => withOne(board, "frames", id, fields),
  );

/** Changing one frame. */
export function useFrame({ id, frame, delivery, settings }: FrameRow) {
  const { mutate, error } = useFrameChange();
  return {
    set: (fields: Partial<Frame>) => mutate({ id, frame: { ...frame, ...fields }, delivery, settings }),
    ask: (fields: Partial<FrameRow["delivery"]>) =>
      mutate({ id, frame, delivery: { ...delivery, ...fields }, settings }),
    write: (fields: Partial<Settings>) =>
      mutate({ id, frame, delivery, settings: { ...settings, ...fields } }),
    error,
  };
}
