import { api, type Placement, type Plan, unwrap } from "../../api/client";
import { follows } from "../shots/shots";
import { frameAt } from "../timecode";
import { placeOf } from "./derive";
import type { Actions, BenchState, KeyTarget, PlanEdits, View } from "./types";

const LABELS: Record<KeyTarget, string> = {
  key: "Keyed",
  shift: "All of it shifted",
  nearest: "Nearest key set",
};

/**
 * Edits in the viewer. Where keyframes set the placement, the picture follows the drag, and then the placement becomes a
 * keyframe at the playhead if that is switched on or one is there. Otherwise the person is asked which keyframes change;
 * until then it is only a trial.
 */
export function keyframing(
  get: () => BenchState,
  show: (fields: Partial<View>) => void,
): Pick<Actions, "viewerEdits" | "setKey"> {
  function hold(placement: Placement | null) {
    const state = get();
    show({ trial: { plan: state.plan, placement, place: state.trial?.place ?? placeOf(state) } });
  }

  function change(plan: Plan) {
    if (get().keyframed && !get().trial) hold(null);
    get().change(plan);
  }

  function commit(plan: Plan, label: string) {
    const { keyframed, plan: base, measure, following, shiftingPath, autoKey } = get();
    const { placement } = plan;
    if (!keyframed) get().commit(plan, label);
    else if (following && resized(placement, measure.placement)) {
      const { sizing, scale, tightness } = placement;
      get().commit({ ...base, placement: { ...base.placement, sizing, scale, tightness } }, "Window sized");
    } else if (following || autoKey || hasKeyHere(get())) {
      putKey(following && shiftingPath ? "shift" : "key", placement);
    } else {
      hold(placement);
      get().change(plan);
    }
  }

  function abandon() {
    if (get().trial) show({ trial: null });
    get().abandon();
  }

  function putKey(way: KeyTarget, placement: Placement) {
    const { time, plan, edit } = get();
    const label = follows(plan.motion) && way === "key" ? "Pinned" : LABELS[way];
    return edit(label, (params, asked) =>
      unwrap(
        api.POST("/api/framings/{framing_id}/key", { params, body: { ...asked, time, placement, way } }),
      ),
    );
  }

  const viewerEdits: PlanEdits = { change, commit, abandon };
  return {
    viewerEdits,
    setKey: (target) => {
      const placement = get().trial?.placement;
      if (placement) putKey(target, placement);
    },
  };
}

const hasKeyHere = ({ plan, time, rate }: BenchState) =>
  plan.motion.keys.some((key) => frameAt(key.time, rate) === frameAt(time, rate));

const resized = (one: Placement, other: Placement) =>
  one.sizing !== other.sizing || one.scale !== other.scale || one.tightness !== other.tightness;
