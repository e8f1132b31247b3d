import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { answered, api, type Framing, type Measure, type Plan } from "../api/client";
import { framingQuery } from "../api/queries";

/** A framing on the bench: what is stored, what is being tried, and ways to change it. */
export function useFraming(framingId: number) {
  const client = useQueryClient();
  const { data: stored, error } = useQuery(framingQuery(framingId));
  const [draft, setDraft] = useState<Plan | null>(null);
  const [tried, setTried] = useState<Measure | null>(null);
  const [problem, setProblem] = useState<unknown>(null);
  const saving = useRef<Promise<unknown>>(Promise.resolve());
  const asked = useRef(0);
  const path = useRef({ params: { path: { framing_id: framingId } } });
  path.current = { params: { path: { framing_id: framingId } } };

  const settle = useCallback(
    (framing: Framing) => {
      client.setQueryData(framingQuery(framingId).queryKey, framing);
      client.invalidateQueries({ queryKey: ["board"] });
      setProblem(null);
    },
    [client, framingId],
  );

  // Numbers of a plan that is only tried; an answer that a newer question has overtaken is left aside.
  useEffect(() => {
    if (!draft) return;
    const number = ++asked.current;
    answered(api.POST("/api/framings/{framing_id}/measure", { ...path.current, body: { plan: draft } })).then(
      (measure) => number === asked.current && setTried(measure),
      setProblem,
    );
  }, [draft]);

  /** Save after all that is being saved already, so that steps keep their order. */
  const queue = useCallback(
    (work: () => Promise<Framing>, done: () => void) => {
      saving.current = saving.current.then(work).then(settle, setProblem).finally(done);
      return saving.current;
    },
    [settle],
  );

  const clear = useCallback(() => {
    asked.current++;
    setDraft(null);
    setTried(null);
  }, []);

  const commit = useCallback(
    (plan: Plan, label: string) => {
      setDraft(plan);
      const body = { plan, label };
      return queue(
        () => answered(api.PUT("/api/framings/{framing_id}/plan", { ...path.current, body })),
        () => setDraft((now) => (now === plan ? null : now)),
      );
    },
    [queue],
  );

  const undo = useCallback(
    () => queue(() => answered(api.POST("/api/framings/{framing_id}/undo", path.current)), clear),
    [queue, clear],
  );
  const redo = useCallback(
    () => queue(() => answered(api.POST("/api/framings/{framing_id}/redo", path.current)), clear),
    [queue, clear],
  );

  const plan = draft ?? stored?.plan;
  const measure = draft ? (tried ?? stored?.measure) : stored?.measure;
  return { stored, plan, measure, error: problem ?? error, change: setDraft, commit, undo, redo };
}

export type Bench = ReturnType<typeof useFraming>;
export type Changer = {
  plan: Plan;
  measure: Measure;
  change: (plan: Plan) => void;
  commit: (plan: Plan, label: string) => void;
};
