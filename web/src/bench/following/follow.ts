import type { Plan } from "../../api/client";
import { toNumber } from "../../ui/exact";
import { shotAt } from "../shots/shots";

/** A stretch of one second, how sure it is in it, in percent, and why it may be wrong. */
export type Second = { start: number; end: number; sure: number };

/** What follows in a plan, shot by shot: each way that is in force, and until when. */
function ways(plan: Plan) {
  const shots = plan.shots.map(({ start }) => toNumber(start));
  const own = (time: number) => {
    const shot = plan.shots[shotAt(plan, String(time))];
    return (shot?.motion ?? plan.motion).follow;
  };
  const follows = new Set([plan.motion.follow, ...plan.shots.map(({ motion }) => motion?.follow)]);
  return [...follows].flatMap((follow) =>
    (follow?.path ?? [])
      .filter(({ start }) => own(toNumber(start)) === follow)
      .map((way, _, all) => {
        const start = toNumber(way.start);
        const later = [...shots, ...all.map((one) => toNumber(one.start))].filter((other) => other > start);
        return { way, start, end: Math.min(...later, Number.POSITIVE_INFINITY) };
      }),
  );
}

/** How sure a window that follows is, second by second. */
export function secondsOf(plan: Plan): Second[] {
  return ways(plan).flatMap(({ way, start, end }) =>
    way.sure.map((sure, number) => ({ start: start + number, end: Math.min(start + number + 1, end), sure })),
  );
}

/** Where it may be wrong, in the order of time. */
export function doubtsOf(plan: Plan) {
  const follows = new Set([plan.motion.follow, ...plan.shots.map(({ motion }) => motion?.follow)]);
  return [...follows]
    .flatMap((follow) => follow?.doubts ?? [])
    .sort((one, other) => toNumber(one.start) - toNumber(other.start));
}

/** The next place after a moment that may be wrong; after the last, the first. */
export function nextDoubt(plan: Plan, seconds: number) {
  const all = doubtsOf(plan);
  return all.find(({ start }) => toNumber(start) > seconds + 1e-3) ?? all[0];
}
