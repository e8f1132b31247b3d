import { api, type Motion, unwrap } from "../../api/client";
import { useChoices } from "../../api/use-choices";
import { Button } from "../../ui/button";
import { ChoiceRow } from "../../ui/choice-row";
import { toExact, toNumber } from "../../ui/exact";
import { SliderRow } from "../../ui/slider-row";
import { TickRow } from "../../ui/tick-row";
import { designOf } from "../editor/scope";
import { FollowPart } from "../following/follow-part";
import { FindShots } from "../shots/find-shots";
import { useBench } from "../state/use-bench";
import { KeyRows } from "./movement/key-rows";
import { moveNamed, nameOf } from "./movement/moves";
import { OverTime } from "./movement/over-time";

/** How the placement varies: by a move over the length of the clip, by following a subject, or by keyframes. */
export function MovementPanel() {
  const { footage, plan, wholePlan, time, edit, editing } = useBench(
    "footage",
    "plan",
    "wholePlan",
    "time",
    "edit",
    "editing",
  );
  const { motion } = plan;
  const addKey = () =>
    edit("Keyed", (params, asked) =>
      unwrap(api.POST("/api/framings/{framing_id}/key", { params, body: { ...asked, time, way: "key" } })),
    );
  return (
    <section aria-label="Movement" className="grid gap-3">
      <h2 className="font-semibold">Movement</h2>
      {wholePlan.shots.length === 0 && footage.info.kind === "clip" && <FindShots />}
      {motion.keys.length === 0 && <FollowPart />}
      {motion.follow ? <StopFollowing /> : motion.keys.length === 0 && <MoveRows />}
      <KeyRows />
      <div className="flex flex-wrap gap-2">
        {!motion.follow && (
          <Button disabled={editing} onClick={addKey}>
            Add keyframe
          </Button>
        )}
        {motion.move && <ConvertToKeyframes />}
      </div>
      <OverTime design={designOf(plan)} />
    </section>
  );
}

/** Changing the motion of the plan. */
function useMotion() {
  const { plan, change, commit } = useBench("plan", "change", "commit");
  const { motion } = plan;
  const withMotion = (fields: Partial<Motion>) => ({ ...plan, motion: { ...motion, ...fields } });
  return {
    motion,
    change: (fields: Partial<Motion>) => change(withMotion(fields)),
    commit: (fields: Partial<Motion>, label: string) => commit(withMotion(fields), label),
  };
}

/** The move over the length of the clip: which one, how far, and at which speed. */
function MoveRows() {
  const choices = useChoices();
  const { motion, change, commit } = useMotion();
  const { move } = motion;
  const pushed = (percent: number) =>
    move?.kind === "push" ? { move: { ...move, percent: signed(move.percent, percent) } } : {};
  return (
    <>
      <ChoiceRow
        label="Move"
        value={nameOf(choices.moves, move)}
        choices={choices.moves.map(({ name, title }) => ({ value: name, title }))}
        onChange={(name) => commit({ move: moveNamed(choices.moves, name, move) }, "Move")}
      />
      {move?.kind === "push" && (
        <SliderRow
          label="Amount"
          {...{ unit: "%", low: 0, high: 30, step: 0.5, initial: 4, typedHigh: 100 }}
          value={Math.abs(toNumber(move.percent))}
          onChange={(percent) => change(pushed(percent))}
          onCommit={(percent) => commit(pushed(percent), "Push")}
        />
      )}
      {move && (
        <ChoiceRow
          label="Speed curve"
          value={move.ease}
          choices={choices.eases}
          onChange={(ease) => commit({ move: { ...move, ease: ease as typeof move.ease } }, "Ease")}
        />
      )}
      {(move?.kind === "pan" || move?.kind === "tilt") && (
        <TickRow ticked={move.beyond} onChange={(beyond) => commit({ move: { ...move, beyond } }, "Move")}>
          Allow the surround to show
        </TickRow>
      )}
    </>
  );
}

function StopFollowing() {
  const { following } = useBench("following");
  const { commit } = useMotion();
  return (
    <div className="flex flex-wrap gap-2">
      {following && <ConvertToKeyframes />}
      <Button onClick={() => commit({ follow: null }, "Stop following")}>Stop following</Button>
    </div>
  );
}

function ConvertToKeyframes() {
  const { edit, editing } = useBench("edit", "editing");
  const convert = () =>
    edit("Move turned into keys", (params, body) =>
      unwrap(api.POST("/api/framings/{framing_id}/keys", { params, body })),
    );
  return (
    <Button disabled={editing} onClick={convert}>
      Convert to keyframes
    </Button>
  );
}

const signed = (before: string, percent: number) => toExact(toNumber(before) < 0 ? -percent : percent, 2);
