import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, type Footage, unwrap } from "../api/client";
import { refreshFramings } from "../api/queries";
import { IN_ORDER } from "../api/saves";

export type Marks = NonNullable<Footage["range"]>;

/** The part of a clip that is delivered, and marking it: into every frame the same. */
export function useRange({ id, timing, range }: Footage) {
  const client = useQueryClient();
  const marking = useMutation({
    scope: IN_ORDER,
    mutationFn: (body: Marks | null) =>
      unwrap(api.PUT("/api/footage/{footage_id}/range", { params: { path: { footage_id: id } }, body })),
    onSettled: () => refreshFramings(client),
  });
  const last = timing.frames - 1;
  const marks = (marking.isPending ? marking.variables : range) ?? { first: 0, last };

  function mark(changed: Partial<Marks>) {
    const next = { ...marks, ...changed };
    // A mark that passes the other takes it along to its end of the clip.
    if (next.first > next.last) {
      if (changed.first !== undefined) next.last = last;
      else next.first = 0;
    }
    marking.mutate(next.first === 0 && next.last === last ? null : next);
  }

  return { marks, part: marks.first > 0 || marks.last < last, mark, whole: () => marking.mutate(null) };
}

export type RangeOf = ReturnType<typeof useRange>;
