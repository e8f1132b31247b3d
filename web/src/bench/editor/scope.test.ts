import { describe, expect, it } from "vitest";
import type { Plan } from "../../api/client";
import { asked, designOf, everywhere, ofShot, taken } from "./scope";

const fill = { tightness: "1" };
const shot = (start: string, own = {}) => ({
  start,
  placement: null,
  motion: null,
  surround: null,
  finish: null,
  ...own,
});
const PLAN = {
  frame: { width: 1080 },
  placement: { tightness: "0" },
  motion: { keys: [] },
  surround: { kind: "blurred" },
  finish: {},
  shots: [shot("0"), shot("2", { placement: fill })],
} as unknown as Plan;

describe("a plan as one of its shots has it", () => {
  it("shows the shot's settings, and is the same design", () => {
    const second = ofShot(PLAN, 1);
    expect(second.placement).toEqual(fill);
    expect(second.surround).toEqual(PLAN.surround);
    expect(designOf(second)).toEqual(designOf(PLAN));
    expect(asked(second).shot).toBe(1);
    expect(asked(PLAN).shot).toBeNull();
  });

  it("stores changes in the shot, however often the plan is spread", () => {
    const changed = { ...{ ...ofShot(PLAN, 0), surround: { kind: "plain" } } } as Plan;
    const { shots, surround } = designOf(changed);
    expect(surround).toEqual(PLAN.surround);
    expect(shots[0]).toMatchObject({ placement: null, surround: { kind: "plain" } });
    expect(shots[1]).toEqual(PLAN.shots[1]);
  });

  it("accepts the server's version of it", () => {
    const second = ofShot(PLAN, 1);
    const made = designOf(PLAN);
    made.shots = [made.shots[0], { ...made.shots[1], placement: { tightness: "2" } }] as typeof made.shots;
    const { shots, placement } = designOf(taken(second, made));
    expect(shots[1]?.placement).toEqual({ tightness: "2" });
    expect(placement).toEqual(PLAN.placement);
    expect(designOf(taken(PLAN, made))).toEqual(made);
  });

  it("lets a part be the same in every shot", () => {
    const same = designOf(everywhere(ofShot(PLAN, 1), { placement: PLAN.placement }));
    expect(same.shots.map(({ placement }) => placement)).toEqual([null, null]);
    expect(same.placement).toEqual(PLAN.placement);
  });
});
