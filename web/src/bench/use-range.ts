import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { api, type Footage, unwrap } from "../api/client";
import { refreshFramings } from "../api/queries";
import { inOrder } from "../api/saves";

type Mark = { first?: number; last?: number };

/** The part of a clip that is delivered, and marking it: into every frame the same. */
export function useRange({ id, timing, range }: Footage) {
  const client = useQueryClient();
  /** Marks that may not be stored yet, so that they show at once. */
  const [ahead, setAhead] = useState<Mark>({});
  const underWay = useRef(0);
  const marking = useMutation({
    mutationFn: (body: Mark | null) =>
      inOrder(() =>
        unwrap(api.PUT("/api/footage/{footage_id}/range", { params: { path: { footage_id: id } }, body })),
      ),
    onSettled: async () => {
      await refreshFramings(client);
      underWay.current -= 1;
      if (underWay.current === 0) setAhead({});
    },
  });
  const last = timing.frames - 1;
  const marks = { first: 0, last, ...range, ...ahead };

  function send(body: Mark | null) {
    underWay.current += 1;
    setAhead((before) => ({ ...before, ...(body ?? { first: 0, last }) }));
    marking.mutate(body);
  }

  return {
    marks,
    part: marks.first > 0 || marks.last < last,
    mark: (changed: Mark) => send(changed),
    whole: () => send(null),
  };
}

export type RangeOf = ReturnType<typeof useRange>;
