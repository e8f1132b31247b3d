import { api, unwrap } from "../api/client";
import { useChange, withOne } from "../frames/use-change";
import { useBench } from "./state/use-bench";

type Mark = { first?: number; last?: number };

/** The part of the clip that is delivered, the same in every frame, and its in and out points. */
export function useRange() {
  const { footage, report } = useBench("footage", "report");
  const { id, timing, range } = footage;
  const last = timing.frames - 1;
  const marks = { first: 0, last, ...range };
  const { mutate } = useChange(
    (body: Mark | null) =>
      unwrap(api.PUT("/api/footage/{footage_id}/range", { params: { path: { footage_id: id } }, body })),
    (board, mark) => withOne(board, "footage", id, { range: mark && { ...marks, ...mark } }),
  );
  return {
    marks,
    isPart: marks.first > 0 || marks.last < last,
    mark: (changed: Mark) => mutate(changed, { onError: report }),
    clear: () => mutate(null, { onError: report }),
  };
}
