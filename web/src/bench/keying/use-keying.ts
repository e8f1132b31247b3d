import { useMutation } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, type Footage, type Placement, type Plan, unwrap } from "../../api/client";
import { useChoices } from "../../api/use-choices";
import { asked, designOf, taken } from "../editor/scope";
import { useSized } from "../following/use-following";
import { follows } from "../shots/shots";
import type { StepName } from "../steps";
import { frameAt } from "../timecode";
import type { Editing } from "../use-framing";

/** Where a placement goes that was set by hand while keys hold it. */
export type Way = "key" | "shift" | "nearest";
const LABELS: Record<Way, string> = {
  key: "Keyed",
  shift: "All of it shifted",
  nearest: "Nearest key set",
};

type Held = { plan: Plan; placement: Placement | null };

/** The place that a trial placement belongs to. */
type Place = {
  /** The plan of the whole clip, without any trial. */
  standing: Plan;
  step: StepName;
  shot: number;
  time: string;
};

/**
 * Setting a placement by hand where keyframes hold it. While it is tried the picture follows the hand; then it becomes a
 * keyframe of this moment where keying is on or a keyframe is there. Else a question asks where it goes. Until it is
 * answered the placement is only a preview: it is dropped when the plan, the step, the shot or the moment changes.
 */
export function useKeying(
  framingId: number,
  footage: Footage,
  editing: Editing,
  { standing, step, shot, time }: Place,
  shifting: boolean,
) {
  const choices = useChoices();
  const [held, setHeld] = useState<Held | null>(null);
  const base = held?.plan ?? editing.plan;
  const resize = useSized(framingId, base, editing.commit);
  const [shotOn, setShotOn] = useState<number | null>(null);
  const on = shotOn === shot;
  const following = follows(base.motion);
  const keyed = base.motion.keys.length > 0 || following;
  const putting = useMutation({
    mutationFn: ({ plan, placement, way }: { plan: Plan; placement: Placement; way: Way }) =>
      unwrap(
        api.POST("/api/framings/{framing_id}/key", {
          params: { path: { framing_id: framingId } },
          body: { ...asked(plan), time, placement, way },
        }),
      ),
    onSuccess: (design, { plan, way }) => {
      const pinned = follows(plan.motion) && way === "key";
      editing.commit(taken(plan, design), pinned ? "Pinned" : LABELS[way]);
      setHeld(null);
    },
  });

  function hold(plan: Plan) {
    setHeld((old) => old ?? { plan: base, placement: null });
    editing.change(plan);
  }

  function put({ placement, ...rest }: Plan) {
    const { rate } = footage.timing;
    const here = base.motion.keys.some((key) => frameAt(key.time, rate) === frameAt(time, rate));
    if (following && resized(placement, editing.measure.placement)) sized(base, placement);
    else if (following) putting.mutate({ plan: base, placement, way: shifting ? "shift" : "key" });
    else if (on || here) putting.mutate({ plan: base, placement, way: "key" });
    else {
      editing.change({ ...rest, placement });
      setHeld({ plan: base, placement });
    }
  }

  /** Resize a window that follows: it keeps following, on a path that is solved again. */
  function sized(plan: Plan, { sizing, scale, tightness }: Placement) {
    resize({ ...plan, placement: { ...plan.placement, sizing, scale, tightness } }, "Window sized");
    setHeld(null);
  }

  function cancel() {
    setHeld(null);
    editing.abandon();
  }

  const { abandon } = editing;
  const holding = held !== null;
  const place = JSON.stringify([designOf(standing), step, shot, time]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a preview ends when its place changes
  useEffect(() => {
    if (!holding) return;
    return () => {
      setHeld(null);
      abandon();
    };
  }, [place, holding]);

  const free: Plan = held
    ? editing.plan
    : { ...base, placement: editing.measure.placement, motion: choices.motion };
  /** What the hand works on in the wells. */
  const hand: Editing = keyed
    ? { ...editing, plan: free, change: hold, commit: put, abandon: cancel }
    : editing;
  return {
    hand,
    /** The plan that stands, whatever is being tried. */
    base,
    on,
    switchOn: (wanted: boolean) => setShotOn(wanted ? shot : null),
    keyed: keyed && !following,
    /** Whether it is asked where it shall go. */
    asks: held?.placement != null && !putting.isPending,
    answer: (way: Way) =>
      held?.placement && putting.mutate({ plan: held.plan, placement: held.placement, way }),
    cancel,
    error: putting.error,
  };
}

export type Keying = ReturnType<typeof useKeying>;

const resized = (one: Placement, other: Placement) =>
  one.sizing !== other.sizing || one.scale !== other.scale || one.tightness !== other.tightness;
