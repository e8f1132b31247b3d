import { api, type Footage, unwrap } from "../api/client";
import { useChange, withOne } from "../frames/use-change";

type Mark = { first?: number; last?: number };

/** The part of a clip that is delivered, and marking it: into every frame the same. */
export function useRange({ id, timing, range }: Footage) {
  const last = timing.frames - 1;
  const marks = { first: 0, last, ...range };
  const marking = useChange(
    (body: Mark | null) =>
      unwrap(api.PUT("/api/footage/{footage_id}/range", { params: { path: { footage_id: id } }, body })),
    (board, mark) => withOne(board, "footage", id, { range: mark && { ...marks, ...mark } }),
  );
  return {
    marks,
    part: marks.first > 0 || marks.last < last,
    mark: (changed: Mark) => marking.mutate(changed),
    whole: () => marking.mutate(null),
  };
}

export type RangeOf = ReturnType<typeof useRange>;
