import type { Choices } from "../../api/use-choices";
import { designOf, ofShot } from "../editor/scope";
import { follows, moves, shotAt } from "../shots/shots";
import type { Answers, Derived, Stored, Tools, View } from "./types";

type Given = Pick<Tools, "editor"> & Stored & View & Pick<Answers, "answer">;

/** Derive the plans and numbers of the bench from the stored data and the view. */
export function derive(given: Given, choices: Choices): Derived {
  const { editor, framing, footage, time, inShot, trial, autoKeyShot } = given;
  const wholePlan = editor.plan(framing.plan);
  const shot = shotAt(wholePlan, time);
  const shownPlan = inShot ? ofShot(wholePlan, shot) : wholePlan;
  const plan = trial?.plan ?? shownPlan;
  const numbers = numbersOf(given, moves(wholePlan));
  const following = follows(plan.motion);
  const keyframed = plan.motion.keys.length > 0 || following;
  const still = { ...plan, placement: numbers.measure.placement, motion: choices.motion };
  return {
    rate: footage.timing.rate,
    wholePlan,
    committedPlan: editor.standing(framing.plan),
    shot,
    shownPlan,
    plan,
    viewerPlan: keyframed && !trial ? still : shownPlan,
    ...numbers,
    following,
    keyframed,
    autoKey: autoKeyShot === shot,
  };
}

/** The stored numbers; while the plan is changed, or where it moves, the newest ones for it. */
function numbersOf({ edits: { draft }, framing, answer }: Given, moving: boolean) {
  const measure = draft || moving ? (answer?.measure ?? framing.measure) : framing.measure;
  return { measure, measured: !draft || answer?.of === JSON.stringify(draft) };
}

/** The place that a trial belongs to: it is dropped when the plan, the step, the shot or the time changes. */
export const placeOf = ({
  committedPlan,
  step,
  shot,
  time,
}: Pick<Derived, "committedPlan" | "shot"> & View) =>
  JSON.stringify([designOf(committedPlan), step, shot, time]);
