import { useEffect, useRef, useState } from "react";
import { useSearchParams } from "react-router";
import { inAddress } from "../ui/address";
import { useRested } from "../ui/use-rested";
import { STEPS, type StepName } from "./steps";
import { type Transport, useRest } from "./use-transport";

const RESTS_MS = 600;
const AT = "at";

/** The step, and the picture, that the address names: so they are there again after a reload, by Back, or by a link. */
export function usePlace() {
  const [query, setQuery] = useSearchParams();
  const asked = query.get("step") as StepName;
  const [first] = useState(() => frameIn(query));
  return {
    step: STEPS.includes(asked) ? asked : "placement",
    choose: (step: StepName) => setQuery(inAddress({ step }), { replace: true }),
    /** The number of the picture to begin with; null where none is named. */
    first,
  };
}

/** Keep the picture that is shown in the address, once it rests. */
export function useKeptMoment(transport: Transport) {
  const [, setQuery] = useSearchParams();
  const rested = useRested(String(useRest(transport)), RESTS_MS);
  const [start] = useState(() => String(transport.frame));
  const set = useRef(setQuery);
  set.current = setQuery;
  useEffect(() => {
    const named = new URLSearchParams(window.location.search).get(AT);
    if (rested !== null && rested !== (named ?? start))
      set.current(inAddress({ [AT]: rested }), { replace: true });
  }, [rested, start]);
}

/** The picture that an address names. */
export function frameIn(query: URLSearchParams): number | null {
  const found = Number.parseInt(query.get(AT) ?? "", 10);
  return Number.isNaN(found) ? null : found;
}
