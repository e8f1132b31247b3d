import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Follow, type Footage, type Plan, unwrap } from "../../api/client";
import { AT_WORK, refreshFramings } from "../../api/queries";
import { useChoices } from "../../api/use-choices";
import type { PlanEditor } from "../editor/plan-editor";
import { asked, taken } from "../editor/scope";
import { follows } from "../shots/shots";
import type { Editing } from "../use-framing";
import type { Transport } from "../use-transport";

/** A window that follows: letting it, correcting it, and who could be followed. */
export function useFollowing(
  framingId: number,
  footage: Footage,
  plan: Plan,
  time: string,
  commit: PlanEditor["commit"],
) {
  const client = useQueryClient();
  const choices = useChoices();
  const follow = plan.motion.follow;
  const params = { path: { framing_id: framingId } };
  const solving = useMutation({
    mutationFn: ({ wanted }: { wanted: Follow; label: string }) =>
      unwrap(
        api.POST("/api/framings/{framing_id}/follow", {
          params,
          body: { ...asked(plan), follow: { ...wanted, path: [], doubts: [] } },
        }),
      ),
    onSuccess: (design, { label, wanted }) => {
      commit(taken(plan, design), label);
      if (wanted && !footage.following) refreshFramings(client);
    },
  });
  const others = useMutation({
    mutationFn: () =>
      unwrap(api.POST("/api/framings/{framing_id}/follow/others", { params, body: asked(plan) })),
    onSuccess: () => refreshFramings(client),
  });
  const job = footage.analyses.find(({ kind }) => kind === "following");
  const solved = (follow?.path.length ?? 0) > 0;
  const body = { ...asked(plan), time };
  const { data: candidates } = useQuery({
    queryKey: ["candidates", framingId, body],
    enabled: solved,
    placeholderData: (before) => before,
    gcTime: 60_000,
    queryFn: () => unwrap(api.POST("/api/framings/{framing_id}/candidates", { params, body })),
  });
  return {
    follow,
    solved,
    /** What looking at the clip is at, while it is not done. */
    looking: job && AT_WORK.includes(job.state) ? job : null,
    /** Why nothing came of it. */
    refused: job && !solved && job.problem ? job : null,
    candidates: solved ? (candidates ?? []) : [],
    solve: (given: Partial<Follow>, label: string) =>
      solving.mutate({ wanted: { ...choices.follow, ...follow, ...given } as Follow, label }),
    giveToOthers: () => others.mutate(),
    given: others.data,
    busy: solving.isPending || others.isPending,
    error: solving.error ?? others.error,
  };
}

export type Following = ReturnType<typeof useFollowing>;

const sizeOf = ({ sizing, scale, tightness, angle }: Plan["placement"]) =>
  JSON.stringify([sizing, scale, tightness, angle]);

/** Change a plan: if a window that follows gets another size, its path is solved again in the same step. */
export function useSized(framingId: number, plan: Plan, commit: PlanEditor["commit"]) {
  const again = useMutation({
    mutationFn: ({ given }: { given: Plan; label: string }) =>
      unwrap(
        api.POST("/api/framings/{framing_id}/follow/anew", {
          params: { path: { framing_id: framingId } },
          body: { ...asked(given), time: "0" },
        }),
      ),
    onSuccess: (design, { given, label }) => commit(taken(given, design), label),
  });
  return (given: Plan, label: string) => {
    const another = sizeOf(given.placement) !== sizeOf(plan.placement);
    if (another && follows(plan.motion) && given.motion === plan.motion) again.mutate({ given, label });
    else commit(given, label);
  };
}

/** What dragging does while a window follows, and whether a box is being drawn. */
export function useFollowingHand() {
  const [drawing, onDraw] = useState(false);
  const [shifting, onShift] = useState(false);
  return { drawing, onDraw, shifting, onShift };
}

export type FollowingHand = ReturnType<typeof useFollowingHand>;

/** What the parts of the panel of a window that follows are given. */
export type FollowProps = Pick<Editing, "plan" | "commit"> & {
  footage: Footage;
  whole: Plan;
  following: Following;
  transport: Transport;
} & FollowingHand;
