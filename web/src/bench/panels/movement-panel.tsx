import { useMutation, useQuery } from "@tanstack/react-query";
import { api, type Design, type Footage, type Motion, type Plan, unwrap } from "../../api/client";
import { useChoices } from "../../api/use-choices";
import { Button } from "../../ui/button";
import { ChoiceRow } from "../../ui/choice-row";
import { shown, toExact, toNumber } from "../../ui/exact";
import { ProblemNote } from "../../ui/problem-note";
import { SliderRow } from "../../ui/slider-row";
import { TickRow } from "../../ui/tick-row";
import { asked, designOf, taken } from "../editor/scope";
import { FollowPart } from "../following/follow-part";
import type { Following, FollowingHand } from "../following/use-following";
import { FindShots } from "../shots/find-shots";
import { moves } from "../shots/shots";
import type { useCutting } from "../shots/use-cutting";
import { frameAt, timecode } from "../timecode";
import type { Editing } from "../use-framing";
import type { Transport } from "../use-transport";
import { KeyRows } from "./movement/key-rows";
import { moveNamed, nameOf } from "./movement/moves";

type Props = Editing & {
  framingId: number;
  footage: Footage;
  time: string;
  transport: Transport;
  cutting: ReturnType<typeof useCutting>;
  /** Whether it is in several shots. */
  cut: boolean;
  /** All of the clip, where one of its shots is worked on. */
  whole: Plan;
  following: Following;
  hand: FollowingHand;
};

/** How the placement varies: by a move over the length of the clip, or by keys. */
export function MovementPanel(props: Props) {
  const { framingId, footage, time, transport, plan, change, commit, cutting, cut, following, whole, hand } =
    props;
  const { motion } = plan;
  const { move } = motion;
  const moved = (given: Partial<Motion>) => ({ ...plan, motion: { ...motion, ...given } });
  const params = { path: { framing_id: framingId } };
  const keying = useMutation({
    mutationFn: (way: "key" | "keys") => {
      const body = asked(plan);
      return way === "key"
        ? unwrap(api.POST("/api/framings/{framing_id}/key", { params, body: { ...body, time, way: "key" } }))
        : unwrap(api.POST("/api/framings/{framing_id}/keys", { params, body }));
    },
    onSuccess: (design, way) =>
      commit(taken(plan, design), way === "key" ? "Keyed" : "Move turned into keys"),
  });

  const choices = useChoices();
  return (
    <section aria-label="Movement" className="grid gap-3">
      <h2 className="font-semibold">Movement</h2>
      <ProblemNote error={keying.error} />
      {!cut && footage.info.kind === "clip" && <FindShots {...{ footage, time, cutting }} />}
      {motion.keys.length === 0 && <FollowPart {...{ ...props, following, whole, ...hand }} />}
      {motion.keys.length === 0 && !motion.follow && (
        <ChoiceRow
          label="Move"
          value={nameOf(choices.moves, move)}
          choices={choices.moves.map(({ name, title }) => ({ value: name, title }))}
          onChange={(name) => commit(moved({ move: moveNamed(choices.moves, name, move) }), "Move")}
        />
      )}
      {motion.follow && (
        <div className="flex flex-wrap gap-2">
          {following.solved && (
            <Button disabled={keying.isPending} onClick={() => keying.mutate("keys")}>
              Convert to keyframes
            </Button>
          )}
          <Button onClick={() => commit(moved({ follow: null }), "Stop following")}>Stop following</Button>
        </div>
      )}
      {move?.kind === "push" && (
        <SliderRow
          label="Amount"
          {...{ unit: "%", low: 0, high: 30, step: 0.5, initial: 4, typedHigh: 100 }}
          value={Math.abs(toNumber(move.percent))}
          onChange={(percent) => change(moved({ move: { ...move, percent: signed(move.percent, percent) } }))}
          onCommit={(percent) =>
            commit(moved({ move: { ...move, percent: signed(move.percent, percent) } }), "Push")
          }
        />
      )}
      {move && (
        <ChoiceRow
          label="Speed curve"
          value={move.ease}
          choices={choices.eases}
          onChange={(ease) => commit(moved({ move: { ...move, ease: ease as typeof move.ease } }), "Ease")}
        />
      )}
      {(move?.kind === "pan" || move?.kind === "tilt") && (
        <TickRow
          ticked={move.beyond}
          onChange={(beyond) => commit(moved({ move: { ...move, beyond } }), "Move")}
        >
          Allow the surround to show
        </TickRow>
      )}
      <KeyRows {...props} />
      {motion.keys.length > 0 && (
        <TickRow
          ticked={motion.inside}
          onChange={(inside) => commit(moved({ inside }), inside ? "Held inside" : "Not held inside")}
        >
          Keep the window inside the picture
        </TickRow>
      )}
      <div className="flex flex-wrap gap-2">
        {!motion.follow && (
          <Button disabled={keying.isPending} onClick={() => keying.mutate("key")}>
            Add keyframe
          </Button>
        )}
        {move && (
          <Button disabled={keying.isPending} onClick={() => keying.mutate("keys")}>
            Convert to keyframes
          </Button>
        )}
      </div>
      <OverTime {...{ framingId, footage, transport }} design={designOf(plan)} />
    </section>
  );
}

const signed = (before: string, percent: number) => toExact(toNumber(before) < 0 ? -percent : percent, 2);

type OverTimeProps = { framingId: number; footage: Footage; transport: Transport; design: Design };

/** The least and the most over time, each with its moment, which a press goes to. */
function OverTime({ framingId, footage, transport, design }: OverTimeProps) {
  const still = !moves(design);
  const { data, error } = useQuery({
    queryKey: ["over time", framingId, design],
    enabled: !still,
    placeholderData: (before) => before,
    queryFn: () =>
      unwrap(
        api.POST("/api/framings/{framing_id}/over-time", {
          params: { path: { framing_id: framingId } },
          body: { design },
        }),
      ),
  });
  if (error) return <ProblemNote error={error} />;
  if (still || !data) return null;
  const { rate } = footage.timing;
  const at = (time: string) => (
    <button
      type="button"
      className="num underline decoration-rule underline-offset-4 hover:decoration-ink"
      onClick={() => transport.go(frameAt(time, rate))}
    >
      {timecode(frameAt(time, rate), rate)}
    </button>
  );
  const rows = [
    ["Picture kept", data.kept_least, data.kept_most, (value: string) => `${shown(value, 1)}%`],
    ["Frame covered", data.covered_least, data.covered_most, (value: string) => `${shown(value, 1)}%`],
    ["Enlarged", data.enlarged_least, data.enlarged_most, (value: string) => `${shown(value, 3)} ×`],
  ] as const;
  return (
    <section className="grid gap-1" aria-label="Over time">
      {rows.map(([name, least, most, say]) => (
        <p key={name}>
          {name} <span className="num">{say(least.value)}</span>
          {most.value === least.value ? (
            " throughout"
          ) : (
            <>
              {" "}
              at {at(least.time)}, <span className="num">{say(most.value)}</span> at {at(most.time)}
            </>
          )}
        </p>
      ))}
      {data.cautions.map(({ kind, message, time }) => (
        <p key={kind} className="border-l-3 border-rust pl-3">
          {message} Worst at {at(time)}.
        </p>
      ))}
      {data.held.length > 0 && (
        <p className="border-l-3 border-ochre pl-3">
          Kept inside the picture: {data.held.length === 1 ? "keyframe" : "keyframes"} at{" "}
          {data.held.map((time, index) => (
            <span key={time}>
              {index > 0 && ", "}
              {at(time)}
            </span>
          ))}
          .
        </p>
      )}
      {data.empty.map(({ start, end }) => (
        <p key={start} className="border-l-3 border-rust pl-3">
          Empty beside the picture from {at(start)} to {at(end)}.
        </p>
      ))}
      {data.fast.map(({ start, end }) => (
        <p key={start} className="border-l-3 border-rust pl-3">
          Fast from {at(start)} to {at(end)}: the window crosses more than a third of itself in a second.
        </p>
      ))}
    </section>
  );
}
