import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Framing, Plan } from "../../api/client";
import { Problem } from "../../api/client";
import { AGAIN_MS, PlanEditor, REST_MS, type Server } from "./plan-editor";

type Saved = { label: string; tightness: string; version: number };

const plan = (tightness: number) =>
  ({ placement: { tightness: String(tightness) }, surround: {}, finish: {} }) as unknown as Plan;
const tightnessOf = (editor: PlanEditor, stored: Framing) => editor.plan(stored.plan).placement.tightness;

/** A server that keeps versions as ours does. */
function fake() {
  const saved: Saved[] = [];
  const asked: string[] = [];
  let framing = { version: 1, plan: plan(0) } as unknown as Framing;
  let failing: Problem | null = null;
  const next = (change: Partial<Framing>) => {
    framing = { ...framing, ...change, version: framing.version + 1 } as Framing;
    return framing;
  };
  const server: Server = {
    stored: () => framing,
    load: async () => framing,
    save: async (steps, version) => {
      if (failing) throw failing;
      if (version !== framing.version) throw new Problem("Changed.", "", null, 409, ["Moved"]);
      for (const { design, label } of steps) {
        saved.push({ label, tightness: design.placement.tightness, version: framing.version });
        next({ plan: { ...framing.plan, ...design } });
      }
      return framing;
    },
    walk: async (way) => {
      asked.push(`${way} ${framing.version} of ${saved.length}`);
      return next({});
    },
    takeIn: () => undefined,
  };
  return {
    server,
    saved,
    asked,
    fail: (problem: Problem | null) => {
      failing = problem;
    },
    elsewhere: () => {
      const before = framing;
      next({ plan: plan(9) });
      const now = framing;
      framing = { ...before } as Framing;
      return () => {
        framing = now;
      };
    },
    now: () => framing,
  };
}

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
});

describe("what the hand does", () => {
  it("is one step where it is a run of one kind", async () => {
    const { server, saved } = fake();
    const editor = new PlanEditor(server);
    for (let nudge = 1; nudge <= 5; nudge++) {
      editor.commit(plan(nudge), "Nudged");
      await vi.advanceTimersByTimeAsync(REST_MS / 2);
    }
    expect(saved).toEqual([]);
    await vi.advanceTimersByTimeAsync(REST_MS);
    expect(saved).toEqual([{ label: "Nudged", tightness: "5", version: 1 }]);
  });

  it("is a separate step if it has another label", async () => {
    const { server, saved } = fake();
    const editor = new PlanEditor(server);
    editor.commit(plan(1), "Nudged");
    editor.commit(plan(2), "Fill amount");
    await editor.flush();
    expect(saved.map(({ label }) => label)).toEqual(["Nudged", "Fill amount"]);
  });

  it("is stored on leaving, though the hand has not rested", async () => {
    const { server, saved } = fake();
    const editor = new PlanEditor(server);
    editor.commit(plan(5), "Nudged");
    await editor.flush();
    expect(saved.map(({ tightness }) => tightness)).toEqual(["5"]);
    expect(editor.store.getState().busy).toBe(false);
  });

  it("is stored before it is undone", async () => {
    const { server, asked } = fake();
    const editor = new PlanEditor(server);
    editor.commit(plan(2), "Nudged");
    await editor.undo();
    expect(asked).toEqual(["undo 2 of 1"]);
    expect(editor.store.getState().draft).toBeNull();
  });

  it("is taken back twice where that is asked twice at once", async () => {
    const { server, asked } = fake();
    const editor = new PlanEditor(server);
    editor.commit(plan(2), "Nudged");
    await Promise.all([editor.undo(), editor.undo()]);
    expect(asked).toEqual(["undo 2 of 1", "undo 3 of 1"]);
    expect(editor.store.getState().problem).toBeNull();
  });

  it("is not what an undo takes back that was asked before it", async () => {
    const { server, asked, saved, now } = fake();
    const editor = new PlanEditor(server);
    editor.commit(plan(2), "Stretched");
    const undone = editor.undo();
    editor.commit(plan(56), "Scaled");
    expect(tightnessOf(editor, now())).toBe("56");
    await undone;
    await vi.advanceTimersByTimeAsync(REST_MS);
    await editor.flush();
    expect(asked).toEqual(["undo 2 of 1"]);
    expect(saved.map(({ label, version }) => ({ label, version }))).toEqual([
      { label: "Stretched", version: 1 },
      { label: "Scaled", version: 3 },
    ]);
    expect(tightnessOf(editor, now())).toBe("56");
  });

  it("is taken back where it was only tried", () => {
    const { server, now } = fake();
    const editor = new PlanEditor(server);
    editor.commit(plan(1), "Moved");
    editor.change(plan(3));
    expect(tightnessOf(editor, now())).toBe("3");
    editor.abandon();
    expect(tightnessOf(editor, now())).toBe("1");
  });

  it("stays on screen until it is stored, and later changes follow it", async () => {
    const { server, now } = fake();
    const editor = new PlanEditor(server);
    editor.commit(plan(1), "Moved");
    const done = editor.flush();
    editor.change(plan(2));
    await done;
    expect(now().plan.placement.tightness).toBe("1");
    expect(tightnessOf(editor, now())).toBe("2");
  });
});

describe("a server that is away", () => {
  it("receives the changes once it is back", async () => {
    const { server, saved, fail } = fake();
    const editor = new PlanEditor(server);
    fail(new Problem("The server did not answer.", "", null, 0));
    editor.commit(plan(4), "Moved");
    await vi.advanceTimersByTimeAsync(REST_MS + AGAIN_MS * 3);
    expect(editor.store.getState()).toMatchObject({ waiting: true, busy: true });
    fail(null);
    await vi.advanceTimersByTimeAsync(AGAIN_MS);
    expect(saved.map(({ tightness }) => tightness)).toEqual(["4"]);
    expect(editor.store.getState()).toMatchObject({ waiting: false, busy: false, draft: null });
  });

  it("differs from one that refuses: a refusal is reported, and the stored plan is shown", async () => {
    const { server, fail, now } = fake();
    const editor = new PlanEditor(server);
    const refusal = new Problem("Out of range.", "", null, 422);
    fail(refusal);
    editor.commit(plan(99), "Scale");
    await editor.flush();
    expect(editor.store.getState()).toMatchObject({ problem: refusal, draft: null, busy: false });
    expect(tightnessOf(editor, now())).toBe("0");
  });
});

describe("a page that goes away", () => {
  it("sends all that is not stored, on the version that the first of it was done to", async () => {
    const { server, saved, fail } = fake();
    const editor = new PlanEditor(server);
    fail(new Problem("The server did not answer.", "", null, 0));
    editor.commit(plan(1), "Moved");
    editor.commit(plan(2), "Fill amount");
    fail(null);
    editor.leave();
    await vi.advanceTimersByTimeAsync(0);
    expect(saved).toEqual([
      { label: "Moved", tightness: "1", version: 1 },
      { label: "Fill amount", tightness: "2", version: 2 },
    ]);
  });

  it("leaves what did not arrive to the next one, which shows it until it is stored", async () => {
    const away = new Problem("The server did not answer.", "", null, 0);
    const gone = fake();
    gone.fail(away);
    const { server, saved, fail, now } = fake();
    fail(away);
    const first = new PlanEditor(gone.server);
    first.commit(plan(1), "Moved");
    first.commit(plan(2), "Fill amount");
    const left = first.leave();
    if (!left) throw new Error("nothing was left");
    const second = new PlanEditor(server);
    second.resume(JSON.parse(JSON.stringify(left)));
    expect(tightnessOf(second, now())).toBe("2");
    await vi.advanceTimersByTimeAsync(AGAIN_MS / 2);
    expect(second.store.getState()).toMatchObject({ waiting: true, busy: true });
    fail(null);
    await vi.advanceTimersByTimeAsync(AGAIN_MS);
    expect(saved.map(({ label }) => label)).toEqual(["Moved", "Fill amount"]);
    expect(second.store.getState()).toMatchObject({ busy: false, draft: null });
  });

  it("leaves nothing where all is stored", async () => {
    const { server } = fake();
    const editor = new PlanEditor(server);
    editor.commit(plan(1), "Moved");
    await editor.flush();
    expect(editor.leave()).toBeNull();
  });

  it("leaves a conflict, and the next page asks again", async () => {
    const { server, now } = fake();
    const editor = new PlanEditor(server);
    editor.resume({ version: 0, steps: [{ design: plan(5), label: "Scale" }] });
    await editor.flush();
    const left = editor.leave();
    expect(left?.steps.map(({ label }) => label)).toEqual(["Scale"]);
    expect(tightnessOf(editor, now())).toBe("5");
  });
});

describe("a person who was signed out meanwhile", () => {
  it("loses nothing: it waits until the person is signed in", async () => {
    const { server, saved, fail } = fake();
    const editor = new PlanEditor(server);
    fail(new Problem("Sign in.", "", null, 401));
    editor.commit(plan(4), "Moved");
    await vi.advanceTimersByTimeAsync(REST_MS + AGAIN_MS);
    expect(editor.store.getState()).toMatchObject({ waiting: true, busy: true });
    fail(null);
    await vi.advanceTimersByTimeAsync(AGAIN_MS);
    expect(saved.map(({ label }) => label)).toEqual(["Moved"]);
  });
});

describe("two at one framing", () => {
  async function both() {
    const made = fake();
    const editor = new PlanEditor(made.server);
    const arrive = made.elsewhere();
    const stored = made.server.stored;
    const old = stored();
    arrive();
    // This page has not heard of it.
    made.server.stored = () => old;
    made.server.takeIn = () => {
      made.server.stored = stored;
    };
    editor.commit(plan(5), "Fill amount");
    await editor.flush();
    return { ...made, editor };
  }

  it("neither silently takes the other's back", async () => {
    const { editor, saved } = await both();
    expect(saved).toEqual([]);
    expect(editor.store.getState().conflict).toMatchObject({
      changed: ["Moved"],
      mine: { label: "Fill amount" },
    });
  });

  it("one takes theirs", async () => {
    const { editor, now } = await both();
    await editor.keepTheirs();
    expect(tightnessOf(editor, now())).toBe("9");
    expect(editor.store.getState()).toMatchObject({ conflict: null, draft: null, busy: false });
  });

  it("or mine, which is then a step after theirs", async () => {
    const { editor, saved } = await both();
    await editor.keepMine();
    await editor.flush();
    expect(saved).toEqual([{ label: "Fill amount", tightness: "5", version: 2 }]);
    expect(editor.store.getState().conflict).toBeNull();
  });
});
