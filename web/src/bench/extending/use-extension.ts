import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { api, type Plan, type Schemas, unwrap } from "../../api/client";
import { asked } from "../editor/scope";
import { useActivity } from "../state/activity";
import { useBench } from "../state/use-bench";

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
const inProgress = (data: Extension | undefined) =>
  !data ||
  [data.looking, ...data.plates, ...data.generations].some((one) => one && ON_ITS_WAY.includes(one.state));

/** The state of a plan's extension, polled while anything is in progress. A draft of it is made for a tile. */
export function useExtensionState(plan: Plan | null, drafts = false) {
  const { framingId, time, takeStamp } = useBench("framingId", "time", "takeStamp");
  const body = plan && { ...asked(plan), time, drafts };
  const plays = useActivity(({ playing }) => playing); // then nothing else is requested
  const query = useQuery({
    queryKey: ["extension", framingId, body, plan?.interpretation],
    enabled: body !== null && !plays,
    placeholderData: (before) => before,
    gcTime: 60_000,
    refetchInterval: ({ state }) => (inProgress(state.data) ? POLL_MS : false),
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
    if (stamp !== undefined) takeStamp(stamp);
  }, [takeStamp, stamp]);
  return query;
}

/** The extension of the plan on the bench. */
export function useExtension() {
  const { framingId, plan } = useBench("framingId", "plan");
  const client = useQueryClient();
  const extended = extendedOf(plan);
  const { data: state, error } = useExtensionState(extended && plan);
  return {
    extended,
    state,
    error,
    refresh: () => client.invalidateQueries({ queryKey: ["extension", framingId] }),
    with: (fields: Partial<Extended>): Plan => ({
      ...plan,
      surround: { ...plan.surround, ...fields } as Extended,
    }),
  };
}

/** Extend the scene of a plan as the verdict on its sides advises. */
export function useExtend() {
  const { time, edit } = useBench("time", "edit");
  return (plan: Plan) =>
    edit(
      "Extended",
      (params, asked) =>
        unwrap(api.POST("/api/framings/{framing_id}/extension/begin", { params, body: { ...asked, time } })),
      plan,
    );
}
