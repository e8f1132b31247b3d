import { useEffect, useRef, useState } from "react";
import { useSearchParams } from "react-router";
import { inAddress } from "../ui/address";
import { useRested } from "../ui/use-rested";
import { useBench } from "./state/use-bench";
import { STEPS, type StepName } from "./steps";

const RESTS_MS = 600;
const AT = "at";

/** The step and the frame that the address names, so that they are there after a reload, by Back, and in a link. */
export function useBenchUrl() {
  const [query, setQuery] = useSearchParams();
  const named = query.get("step") as StepName;
  const frame = Number.parseInt(query.get(AT) ?? "", 10);
  return {
    step: STEPS.includes(named) ? named : ("placement" as const),
    /** Null if none is named. */
    frame: Number.isNaN(frame) ? null : frame,
    goToStep: (step: StepName) => setQuery(inAddress({ step }), { replace: true }),
  };
}

/** Keep the frame that is shown in the address, once the playhead rests. */
export function useFrameInUrl() {
  const [, setQuery] = useSearchParams();
  const { transport } = useBench("transport", "time");
  const rested = useRested(String(transport.store.getState().rest), RESTS_MS);
  const [start] = useState(() => String(transport.frame));
  const set = useRef(setQuery);
  set.current = setQuery;
  useEffect(() => {
    const named = new URLSearchParams(window.location.search).get(AT);
    if (rested !== null && rested !== (named ?? start))
      set.current(inAddress({ [AT]: rested }), { replace: true });
  }, [rested, start]);
}
