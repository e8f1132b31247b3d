import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { useStore } from "zustand";
import { api, type Plan, type Schemas, unwrap } from "../../api/client";
import type { PlanEditor } from "../editor/plan-editor";
import { asked, taken } from "../editor/scope";
import { driving } from "../use-transport";
import { setStamp } from "./stamp";

export type Side = "left" | "right" | "top" | "bottom";
export const SIDES: Side[] = ["left", "right", "top", "bottom"];
export type Extended = Extract<Plan["surround"], { kind: "extended" }>;
export type PlateSide = NonNullable<Extended["left"]>;
export type Extension = Schemas["ExtensionOut"];

const POLL_MS = 700;
export const ON_ITS_WAY = ["queued", "running"];

export const extendedOf = (plan: Plan) =>
  plan.surround.kind === "extended" ? (plan.surround as Extended) : null;

/** Whether anything of it is still being found out or made. */
const moves = (data: Extension | undefined) =>
  !data ||
  [data.looking, ...data.plates, ...data.generations].some((one) => one && ON_ITS_WAY.includes(one.state));

/** The state of a design's extension, polled while anything is in progress. */
export function useStanding(framingId: number, plan: Plan | null, time: string, drafts = false) {
  const body = plan && { ...asked(plan), time, drafts };
  const plays = useStore(driving, ({ any }) => any); // then nothing else is asked
  const query = useQuery({
    queryKey: ["extension", framingId, body, plan?.interpretation],
    enabled: body !== null && !plays,
    placeholderData: (before) => before,
    gcTime: 60_000,
    refetchInterval: ({ state }) => (moves(state.data) ? POLL_MS : false),
    queryFn: () =>
      unwrap(
        api.POST("/api/framings/{framing_id}/extension", {
          params: { path: { framing_id: framingId } },
          body: body as NonNullable<typeof body>,
        }),
      ),
  });
  const stamp = query.data?.stamp;
  useEffect(() => {
    if (stamp !== undefined) setStamp(framingId, stamp);
  }, [framingId, stamp]);
  return query;
}

/** Extending the scene of a framing: as the verdict advises, side by side, with pictures from elsewhere. */
export function useExtension(framingId: number, plan: Plan, time: string, commit: PlanEditor["commit"]) {
  const client = useQueryClient();
  const extended = extendedOf(plan);
  const standing = useStanding(framingId, extended && plan, time);
  const params = { path: { framing_id: framingId } };
  const again = () => client.invalidateQueries({ queryKey: ["extension", framingId] });
  const begin = useMutation({
    mutationFn: (given: Plan) =>
      unwrap(
        api.POST("/api/framings/{framing_id}/extension/begin", { params, body: { ...asked(given), time } }),
      ),
    onSuccess: (design, given) => commit(taken(given, design), "Extended"),
  });
  const split = useMutation({
    mutationFn: (part: { start: string; end: string }) =>
      unwrap(
        api.POST("/api/framings/{framing_id}/extension/to-fit", {
          params,
          body: { ...asked(plan), time, ...part },
        }),
      ),
    onSuccess: (design) => commit({ ...plan, ...design }, "Cut where it fits"),
  });
  const plate = useMutation({
    mutationFn: ({ id, verb }: { id: number; verb: "cancel" | "retry" }) =>
      unwrap(api.POST("/api/plates/{plate_id}/{verb}", { params: { path: { plate_id: id, verb } } })),
    onSettled: again,
  });
  return {
    extended,
    standing: standing.data,
    error: standing.error ?? begin.error ?? split.error ?? plate.error,
    begin: (given: Plan) => begin.mutate(given),
    split: (part: { start: string; end: string }) => split.mutate(part),
    plate: plate.mutate,
    again,
    with: (given: Partial<Extended>): Plan => ({
      ...plan,
      surround: { ...plan.surround, ...given } as Extended,
    }),
  };
}

export type ExtensionOf = ReturnType<typeof useExtension>;
