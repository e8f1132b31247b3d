import type { Plan } from "../../api/client";
import { titleOf, useChoices } from "../../api/use-choices";
import { Button } from "../../ui/button";
import { everywhere } from "../editor/scope";
import { MomentLink } from "../moment-link";
import { follows } from "../shots/shots";
import { useBench } from "../state/use-bench";
import { doubtsOf } from "./follow";

/** Where it may be wrong, and what can be done where a group does not fit. */
export function Doubts() {
  const { plan, wholePlan, commit } = useBench("plan", "wholePlan", "commit");
  const choices = useChoices();
  const doubts = doubtsOf(wholePlan);
  if (!follows(plan.motion)) return null;
  if (doubts.length === 0) return <p className="text-soft">Nothing doubtful.</p>;
  const wide = doubts.some(({ reason }) => reason === "wide" || reason === "large");

  function wholePicture() {
    const { angle, mirror } = plan.placement;
    const sized = { ...choices.placement, angle, mirror };
    const parts = { placement: sized, motion: choices.motion } as Partial<Plan>;
    commit(
      plan.shots.length ? ({ ...plan, ...parts } as Plan) : everywhere(plan, parts as Plan),
      "Whole picture with surround",
    );
  }

  return (
    <section aria-label="Moments to check" className="grid gap-1">
      <p>
        <span className="num">{doubts.length}</span> {doubts.length === 1 ? "moment" : "moments"} to check; N
        goes to the next.
      </p>
      <ul className="grid max-h-40 gap-0.5 overflow-y-auto">
        {doubts.map((one) => (
          <li key={`${one.start} ${one.reason}`} className="border-l-3 border-rust pl-3">
            <MomentLink time={one.start} /> to <MomentLink time={one.end} />:{" "}
            {titleOf(choices.doubts, one.reason).toLowerCase()}, <span className="num">{one.sure}%</span> sure
          </li>
        ))}
      </ul>
      {wide && (
        <div className="flex flex-wrap items-center gap-2">
          <Button onClick={wholePicture}>Whole picture with surround</Button>
          <span className="text-soft">or choose a subject above</span>
        </div>
      )}
    </section>
  );
}
