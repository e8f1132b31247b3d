import { createStore } from "zustand/vanilla";
import type { Design, Framing, Plan, Problem } from "../../api/client";
import type { Way } from "../../history/history";
import { afterPaint } from "./after-paint";
import { alike, designOf } from "./scope";

/** How long the hand must rest before a run of alike changes is one step, counted from when they are on screen. */
export const REST_MS = 400;
export const AGAIN_MS = 2000;

export type Step = { design: Design; label: string };
export type Conflict = { mine: Step; changed: string[] };
/** Unstored changes in their order, and the version they were made on. */
export type Unstored = { version: number; steps: Step[] };

export type EditorState = {
  /** The design being tried or not stored yet; null if the stored one is shown. */
  draft: Design | null;
  /** Whether something is still to be stored, or to be taken back. */
  busy: boolean;
  /** Whether changes wait for a server that does not answer. */
  waiting: boolean;
  /** The last change that is not stored yet. */
  last: string | null;
  conflict: Conflict | null;
  problem: unknown;
};

/** What the editor asks of the server. A refusal is thrown as a Problem. */
export type Server = {
  stored: () => Framing | undefined;
  load: () => Promise<Framing>;
  /** Store steps one after another; those of them that have arrived already are not stored again. */
  save: (steps: Step[], version: number, options: { keepalive: boolean }) => Promise<Framing>;
  /** Undo or redo in the project; nothing happens where there is nothing to. */
  walk: (way: Way) => Promise<unknown>;
  takeIn: (framing: Framing) => void;
};

const STALE = 409;
const SIGNED_OUT = 401;
const QUIET: EditorState = {
  draft: null,
  busy: false,
  waiting: false,
  last: null,
  conflict: null,
  problem: null,
};

/**
 * What the hand does to one framing, until the server has it. The draft is the truth until then: it is stored step by
 * step in the order in which it was done, also after the page has gone on to something else, and waits while the server
 * does not answer. Consecutive changes with one label are one step. Undo and redo keep their place in the order: a
 * change made after an undo is not undone by it.
 */
export class PlanEditor {
  readonly store = createStore<EditorState>(() => QUIET);
  private pending: Step | null = null;
  private rest: ReturnType<typeof setTimeout> | undefined;
  private queue: (Step | Way)[] = [];
  /** The version that the previous page's unstored changes were made on; they are sent together. */
  private madeOn: number | null = null;
  private pumping: Promise<void> | null = null;

  constructor(private readonly server: Server) {}

  /** The plan as the hand has it. */
  plan(stored: Plan): Plan {
    const { draft } = this.store.getState();
    return draft ? { ...stored, ...draft } : stored;
  }

  /** The plan without anything that is only being tried. */
  standing(stored: Plan): Plan {
    const newest = this.newest();
    return newest ? { ...stored, ...newest.design } : stored;
  }

  /** Try something: it is shown, and stored only once it is committed. */
  change = (plan: Plan) => {
    const design = designOf(plan);
    const before = this.newest()?.design ?? null;
    const stored = this.server.stored();
    const same = before === null && stored && alike(stored.plan, design);
    this.store.setState({ draft: same ? null : design });
  };

  /** Drop a trial and show the plan from before it. */
  abandon = () => this.store.setState({ draft: this.newest()?.design ?? null });

  /** Do something; it is stored once the hand rests, or before anything else is done. */
  commit = (plan: Plan, label: string) => {
    if (this.pending && this.pending.label !== label) this.settle();
    this.pending = { design: designOf(plan), label };
    this.store.setState({ draft: this.pending.design, busy: true, last: label, problem: null });
    clearTimeout(this.rest);
    // A slow machine takes long to show a change; people press again after they see it.
    const latest = this.pending;
    this.rest = setTimeout(this.settle, REST_MS + AGAIN_MS);
    afterPaint(() => {
      if (this.pending !== latest) return;
      clearTimeout(this.rest);
      this.rest = setTimeout(this.settle, REST_MS);
    });
  };

  /** Store all that was done, and wait until that is so, or is refused. */
  flush = async () => {
    this.settle();
    while (this.pumping) await this.pumping;
  };

  undo = () => this.go("undo");
  redo = () => this.go("redo");

  /** In a conflict: keep the stored plan, or this page's. */
  keepTheirs = async () => {
    this.store.setState(QUIET);
    this.server.takeIn(await this.server.load());
  };

  keepMine = async () => {
    const { conflict } = this.store.getState();
    if (!conflict) return;
    this.store.setState({ conflict: null });
    this.server.takeIn(await this.server.load());
    this.queue.unshift(conflict.mine);
    this.pump();
  };

  /** Send all that is not stored while the page goes away, and say what that was, in case it does not arrive. */
  leave = (): Unstored | null => {
    const { conflict } = this.store.getState();
    const version = this.madeOn ?? this.server.stored()?.version;
    const steps = [
      ...(conflict ? [conflict.mine] : []),
      ...this.queue.filter(isStep),
      ...(this.pending ? [this.pending] : []),
    ];
    if (steps.length === 0 || version === undefined) return null;
    if (!conflict) this.server.save(steps, version, { keepalive: true }).catch(() => undefined);
    return { version, steps };
  };

  /** Go on with what the page before this one left unstored. */
  resume = ({ version, steps }: Unstored) => {
    this.madeOn = version;
    this.queue = steps;
    const last = steps.at(-1);
    this.store.setState({ draft: last?.design ?? null, busy: true, last: last?.label ?? null });
    this.pump();
  };

  private async go(way: Way) {
    if (this.store.getState().conflict) return;
    this.settle();
    this.queue.push(way);
    this.store.setState({ busy: true });
    this.pump();
    await this.flush();
  }

  private get toDo() {
    return this.queue.length > 0 || this.pending !== null;
  }

  private newest(): Step | undefined {
    return this.pending ?? this.queue.filter(isStep).at(-1);
  }

  private settle = () => {
    clearTimeout(this.rest);
    if (!this.pending) return;
    this.queue.push(this.pending);
    this.pending = null;
    this.pump();
  };

  private pump() {
    this.pumping ??= this.drain().finally(() => {
      this.pumping = null;
      this.store.setState({ busy: this.toDo });
    });
  }

  private async drain() {
    for (;;) {
      const first = this.queue[0];
      if (!first || this.store.getState().conflict) return;
      if (isStep(first)) await this.save(this.madeOn === null ? [first] : this.queue.filter(isStep));
      else await this.walk(first);
    }
  }

  private async save(steps: Step[]) {
    try {
      const version = this.madeOn ?? (await this.stored()).version;
      this.server.takeIn(await this.server.save(steps, version, { keepalive: false }));
      this.done(steps, null);
    } catch (error) {
      await this.refused(steps, error);
    }
  }

  private async walk(way: Way) {
    try {
      await this.server.walk(way);
      this.store.setState({ problem: null });
    } catch (error) {
      if ((error as Partial<Problem>).status === STALE) this.server.takeIn(await this.server.load());
      this.store.setState({ problem: error });
    }
    this.queue.shift();
    this.store.setState({ draft: this.newest()?.design ?? null });
  }

  private async stored(): Promise<Framing> {
    return this.server.stored() ?? (await this.server.load());
  }

  private async refused(steps: Step[], error: unknown) {
    const { status, changed } = error as Partial<Problem>;
    if (status === STALE) {
      // All changes made here since then conflict with the change made elsewhere.
      const mine = this.queue.filter(isStep).at(-1) as Step;
      this.queue = [];
      this.madeOn = null;
      this.store.setState({ conflict: { mine, changed: changed ?? [] }, draft: mine.design, waiting: false });
    } else if (status === 0 || status === SIGNED_OUT || (status !== undefined && status >= 500)) {
      this.store.setState({ waiting: true });
      await new Promise((resolve) => setTimeout(resolve, AGAIN_MS));
    } else this.done(steps, error);
  }

  /** Steps are stored or refused; later changes continue. */
  private done(steps: Step[], problem: unknown) {
    this.queue = this.queue.filter((waiting) => !steps.includes(waiting as Step));
    this.madeOn = null;
    const shown = steps.at(-1)?.design;
    this.store.setState(({ draft }) => ({
      problem,
      waiting: false,
      draft: draft === shown ? null : draft,
      last: this.newest()?.label ?? null,
    }));
  }
}

const isStep = (one: Step | Way | undefined): one is Step => typeof one === "object";
