import { useEffect, useState } from "react";
import type { Plan } from "../../api/client";
import { titleOf, useChoices } from "../../api/use-choices";
import { Tile } from "../tile";
import { useSmall } from "../tiles";
import { useExtensionState } from "./use-extension";

type Props = {
  title: string;
  plan: Plan;
  chosen: boolean;
  onChoose: () => void;
};

const STAYS_MS = 2500;

/** Whether the pointer stays: a preview is made only then. */
function useStays(): boolean {
  const [stays, setStays] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setStays(true), STAYS_MS);
    return () => clearTimeout(timer);
  }, []);
  return stays;
}

/** The scene extended, as a draft of this clip; or why it does not fit. */
export function ExtendedTile({ title, plan, chosen, onChoose }: Props) {
  const stays = useStays();
  const { verdicts_of_sides } = useChoices();
  const { small } = useSmall();
  const { data } = useExtensionState(stays || chosen ? plan : null, true);
  const sides = data?.verdict?.sides;
  const best = sides && (sides.left?.verdict === "unfit" ? sides.right : sides.left);
  const unfit = best?.verdict === "unfit";
  const job = data?.looking;
  const words = unfit
    ? titleOf(verdicts_of_sides, "unfit")
    : job?.state === "running"
      ? `looking, ${job.done_percent}%`
      : "";
  return (
    <span className="relative grid">
      <Tile {...{ plan, title, chosen, onChoose }} />
      {words && !small && (
        <span
          title={best?.summary}
          className={`pointer-events-none absolute inset-x-1 top-1 rounded bg-well/85 px-1 text-center text-[12px] text-chalk`}
        >
          {words}
        </span>
      )}
    </span>
  );
}
