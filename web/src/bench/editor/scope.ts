import type { Design, Plan } from "../../api/client";

/** The parts of a plan that a shot can set itself. */
export const PARTS = ["placement", "motion", "surround", "finish"] as const;
export type Part = (typeof PARTS)[number];

/** The shot that changes in a plan go to. It survives spreading the plan. */
const SCOPE = Symbol("scope");
type Scope = { number: number; whole: Plan; shown: Plan };
type Scoped = { [SCOPE]?: Scope };

const scopeOf = (plan: Plan | Design) => (plan as Scoped)[SCOPE];

/** A plan as one of its shots sees it. Changes in it go to that shot. */
export function ofShot(whole: Plan, number: number): Plan {
  const shot = whole.shots[number];
  if (!shot) return whole;
  const own = PARTS.flatMap((part) => (shot[part] ? [[part, shot[part]]] : []));
  const shown: Plan = { ...whole, ...Object.fromEntries(own) };
  return { ...shown, [SCOPE]: { number, whole, shown } } as Plan;
}

/** What people decide of a plan; all else of it comes from the clip and its frame. */
export function designOf(plan: Plan | Design): Design {
  const scope = scopeOf(plan);
  if (!scope) return partsOf(plan);
  const changed = PARTS.filter((part) => plan[part] !== scope.shown[part]).map((part) => [part, plan[part]]);
  const shots = scope.whole.shots.map((shot, number) =>
    number === scope.number ? { ...shot, ...Object.fromEntries(changed) } : shot,
  );
  return { ...partsOf(scope.whole), shots };
}

function partsOf({ placement, motion, surround, finish, shots }: Plan | Design): Design {
  return { placement, motion, surround, finish, shots };
}

/** Whether people decided the same of both. */
export const alike = (one: Plan | Design, other: Plan | Design) =>
  JSON.stringify(designOf(one)) === JSON.stringify(designOf(other));

/** The parts of a plan that set where the picture is, and when; the others do not affect it. */
export function movementOf(plan: Plan): Pick<Design, "placement" | "motion" | "shots"> {
  const { placement, motion, shots } = designOf(plan);
  return {
    placement,
    motion,
    shots: shots.map((shot) => ({ ...shot, surround: null, finish: null })),
  };
}

/** What the server is asked to change: a design, and the shot of it that is meant. */
export function asked(plan: Plan): { design: Design; shot: number | null } {
  return { design: designOf(plan), shot: scopeOf(plan)?.number ?? null };
}

/** A plan with the server's version of its design. */
export function taken(plan: Plan, design: Design): Plan {
  const scope = scopeOf(plan);
  if (!scope) return { ...plan, ...design };
  const shot = design.shots[scope.number];
  const own = PARTS.flatMap((part) => (shot?.[part] ? [[part, shot[part]]] : []));
  return { ...plan, ...Object.fromEntries(own) };
}

/** The whole of a plan, with parts that are the same in every shot. */
export function everywhere(plan: Plan, parts: Partial<Pick<Plan, Part>>): Plan {
  const { [SCOPE]: scope, ...bare } = plan as Plan & Scoped;
  const whole = scope?.whole ?? (bare as Plan);
  const none = Object.fromEntries(Object.keys(parts).map((part) => [part, null]));
  return { ...whole, ...parts, shots: whole.shots.map((shot) => ({ ...shot, ...none })) };
}
