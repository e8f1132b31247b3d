import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../../api/client";
import { useBench } from "../state/use-bench";

export type ScopeKind = Schemas["ScopeIn"]["kind"];

/** A scope of a design, as text, at the playhead: its picture and its numbers. */
export function useScope(kind: ScopeKind, design: string | null) {
  const { framingId, time } = useBench("framingId", "time");
  return useQuery({
    queryKey: ["scope", framingId, kind, time, design],
    enabled: design !== null,
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 10_000,
    queryFn: () =>
      unwrap(
        api.POST("/api/framings/{framing_id}/scope", {
          params: { path: { framing_id: framingId } },
          body: { design: JSON.parse(design ?? ""), time, kind },
        }),
      ),
  });
}
