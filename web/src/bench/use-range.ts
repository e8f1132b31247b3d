import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, type Footage, unwrap } from "../api/client";
import { refreshFramings } from "../api/queries";
import { IN_ORDER } from "../api/saves";

type Mark = { first?: number; last?: number };

/** The part of a clip that is delivered, and marking it: into every frame the same. */
export function useRange({ id, timing, range }: Footage) {
  const client = useQueryClient();
  const marking = useMutation({
    scope: IN_ORDER,
    mutationFn: (body: Mark | null) =>
      unwrap(api.PUT("/api/footage/{footage_id}/range", { params: { path: { footage_id: id } }, body })),
    onSettled: () => refreshFramings(client),
  });
  const last = timing.frames - 1;
  const marked = { first: 0, last, ...range };
  // What was marked just now is seen at once; where it takes the other along, the server says so.
  const marks = marking.isPending ? { ...marked, ...(marking.variables ?? { first: 0, last }) } : marked;

  return {
    marks,
    part: marks.first > 0 || marks.last < last,
    mark: (changed: Mark) => marking.mutate(changed),
    whole: () => marking.mutate(null),
  };
}

export type RangeOf = ReturnType<typeof useRange>;
