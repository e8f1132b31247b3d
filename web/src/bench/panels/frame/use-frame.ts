import { useMutation, useQueryClient } from "@tanstack/react-query";
import { answered, api, type Frame, type FrameRow } from "../../../api/client";
import { refreshFramings } from "../../../api/queries";

/** Changing a frame of the project for every clip that goes into it, or what is asked of it. */
export function useFrame(row: FrameRow) {
  const client = useQueryClient();
  const put = useMutation({
    mutationFn: (body: { frame: Frame; delivery: FrameRow["delivery"] }) =>
      answered(api.PUT("/api/frames/{frame_id}", { params: { path: { frame_id: row.id } }, body })),
    onSettled: () => refreshFramings(client),
  });
  return {
    set: (fields: Partial<Frame>) =>
      put.mutate({ frame: { ...row.frame, ...fields }, delivery: row.delivery }),
    ask: (fields: Partial<FrameRow["delivery"]>) =>
      put.mutate({ frame: row.frame, delivery: { ...row.delivery, ...fields } }),
    error: put.error,
  };
}
