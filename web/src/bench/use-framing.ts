import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useStore } from "zustand";
import { api, type Design, type Framing, type Measure, type Plan, unwrap } from "../api/client";
import { framingQuery } from "../api/queries";
import { editorOf, letGo } from "./editor/editors";
import type { PlanEditor } from "./editor/plan-editor";
import { designOf } from "./editor/scope";
import { moves } from "./shots/shots";

/** A framing on the bench: the stored plan, the changes to it, and ways to change it. */
export function useFraming(projectId: number, framingId: number) {
  const client = useQueryClient();
  const { data: stored, error } = useQuery(framingQuery(framingId));
  const editor = editorOf(client, projectId, framingId);
  const state = useStore(editor.store);
  const { measure: tried, error: unmeasured, of } = useMeasure(framingId, state.draft, BEGINNING);
  useEffect(
    () => () => {
      // Whether files are still current depends on the stored plan.
      letGo(framingId).then(() => client.invalidateQueries({ queryKey: ["renders"] }));
    },
    [framingId, client],
  );
  const plan = stored && editor.plan(stored.plan);
  const measure = state.draft ? (tried ?? stored?.measure) : stored?.measure;
  // During a trial the numbers may be of a moment before.
  const measured = !state.draft || of === JSON.stringify(state.draft);
  return { stored, plan, measure, measured, editor, state, error: state.problem ?? unmeasured ?? error };
}

/** Numbers of a design at a moment: one question at a time, the newest next; none are asked for without a design. */
function useMeasure(framingId: number, design: Design | null, time: string) {
  const [found, setFound] = useState<Found>(NOTHING);
  const [asker] = useState(() => new Coalesced());
  // A design counts as new only if its content differs.
  const wanted = design && JSON.stringify(design);
  useEffect(() => {
    if (!wanted) {
      asker.drop();
      setFound(NOTHING);
      return;
    }
    asker.ask(async (current) => {
      const params = { path: { framing_id: framingId } };
      const body = { design: JSON.parse(wanted) as Design, time };
      try {
        const measure = await unwrap(api.POST("/api/framings/{framing_id}/measure", { params, body }));
        if (current()) setFound({ measure, error: null, of: wanted });
      } catch (error) {
        if (current()) setFound(({ measure }) => ({ measure, error, of: wanted }));
      }
    });
  }, [wanted, time, framingId, asker]);
  return found;
}

/** The numbers of a plan at a moment, if it moves; otherwise those of every moment. */
export function useMeasureAt(framingId: number, plan: Plan, measure: Measure, time: string): Measure {
  const found = useMeasure(framingId, moves(plan) ? designOf(plan) : null, time);
  return found.measure ?? measure;
}

const BEGINNING = "0";
/** Numbers, and the design that they are of. */
type Found = { measure: Measure | null; error: unknown; of: string | null };
const NOTHING: Found = { measure: null, error: null, of: null };

/** Runs one question at a time; of those that come meanwhile only the newest is asked. */
export class Coalesced {
  private waiting: ((current: () => boolean) => Promise<void>) | null = null;
  private running = false;
  private round = 0;

  ask(question: (current: () => boolean) => Promise<void>) {
    this.waiting = question;
    if (!this.running) this.run();
  }

  /** Drop the answer that is awaited. */
  drop() {
    this.waiting = null;
    this.round++;
  }

  private async run() {
    this.running = true;
    while (this.waiting) {
      const question = this.waiting;
      const round = ++this.round;
      this.waiting = null;
      await question(() => round === this.round);
    }
    this.running = false;
  }
}

export type Bench = ReturnType<typeof useFraming>;
/** The framing on the bench, and ways to change it. */
export type Editing = {
  plan: Plan;
  measure: Measure;
  /** Whether the numbers are those of the plan. */
  measured: boolean;
  change: PlanEditor["change"];
  commit: PlanEditor["commit"];
  abandon: PlanEditor["abandon"];
};
export type { Framing };
