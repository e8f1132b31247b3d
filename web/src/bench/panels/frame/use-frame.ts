import { useMutation, useQueryClient } from "@tanstack/react-query";
import { answered, api, type Frame, type FrameRow, type Settings } from "../../../api/client";
import { refreshFramings } from "../../../api/queries";

/** Changing a frame of the project for every clip that goes into it, or what is asked of it. */
export function useFrame(row: FrameRow) {
  const client = useQueryClient();
  const put = useMutation({
    mutationFn: (body: Pick<FrameRow, "frame" | "delivery" | "settings">) =>
      answered(api.PUT("/api/frames/{frame_id}", { params: { path: { frame_id: row.id } }, body })),
    onSettled: () => refreshFramings(client),
  });
  const { frame, delivery, settings } = row;
  return {
    set: (fields: Partial<Frame>) => put.mutate({ frame: { ...frame, ...fields }, delivery, settings }),
    ask: (fields: Partial<FrameRow["delivery"]>) =>
      put.mutate({ frame, delivery: { ...delivery, ...fields }, settings }),
    write: (next: Settings) => put.mutate({ frame, delivery, settings: next }),
    error: put.error,
  };
}
