import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { answered, api, type Framing, type Measure, type Plan } from "../api/client";
import { framingQuery, takeIn } from "../api/queries";
import { IN_ORDER } from "../api/saves";

/** A framing on the bench: what is stored, what is being tried, and ways to change it. */
export function useFraming(framingId: number) {
  const client = useQueryClient();
  const { data: stored, error } = useQuery(framingQuery(framingId));
  const [draft, setDraft] = useState<Plan | null>(null);
  const [tried, setTried] = useState<Measure | null>(null);
  const [problem, setProblem] = useState<unknown>(null);
  const asked = useRef(0);
  const path = useMemo(() => ({ params: { path: { framing_id: framingId } } }), [framingId]);

  const { mutateAsync, error: refused } = useMutation({
    scope: IN_ORDER,
    mutationFn: (work: () => Promise<Framing>) => work(),
    onSuccess: (framing) => {
      takeIn(client, framing);
      setProblem(null);
    },
  });

  // Numbers of a plan that is only tried; an answer that a newer question has overtaken is left aside.
  useEffect(() => {
    if (!draft) return;
    const number = ++asked.current;
    answered(api.POST("/api/framings/{framing_id}/measure", { ...path, body: { plan: draft } })).then(
      (measure) => number === asked.current && setTried(measure),
      setProblem,
    );
  }, [draft, path]);

  /** What the server refuses is told as `error`. */
  const save = useCallback(
    (work: () => Promise<Framing>, done: () => void) =>
      mutateAsync(work)
        .catch(() => undefined)
        .finally(done),
    [mutateAsync],
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
      return save(
        () => answered(api.PUT("/api/framings/{framing_id}/plan", { ...path, body })),
        () => setDraft((now) => (now === plan ? null : now)),
      );
    },
    [save, path],
  );

  const undo = useCallback(
    () => save(() => answered(api.POST("/api/framings/{framing_id}/undo", path)), clear),
    [save, clear, path],
  );
  const redo = useCallback(
    () => save(() => answered(api.POST("/api/framings/{framing_id}/redo", path)), clear),
    [save, clear, path],
  );

  const plan = draft ?? stored?.plan;
  const measure = draft ? (tried ?? stored?.measure) : stored?.measure;
  return { stored, plan, measure, error: refused ?? problem ?? error, change: setDraft, commit, undo, redo };
}

export type Bench = ReturnType<typeof useFraming>;
export type Changer = {
  plan: Plan;
  measure: Measure;
  change: (plan: Plan) => void;
  commit: (plan: Plan, label: string) => void;
};
