import type { Measure } from "../api/client";

export const STEPS = ["source", "frame", "placement", "movement", "surround", "finish", "check"] as const;
export type StepName = (typeof STEPS)[number];

export const TITLES: Record<StepName, string> = {
  source: "Source",
  frame: "Frame",
  placement: "Placement",
  movement: "Movement",
  surround: "Surround",
  finish: "Finish",
  check: "Check",
};

type Props = { measure: Measure; checked: string; current: StepName; onChoose: (step: StepName) => void };

/** The steps in the order people work, each with its present state. */
export function Steps({ measure, checked, current, onChoose }: Props) {
  const { summary } = measure;
  const states: Record<StepName, string> = { ...summary, check: checked };
  return (
    <nav aria-label="Steps" className="pt-3 narrow:pt-0">
      <ol className="narrow:flex narrow:flex-wrap">
        {STEPS.map((step, index) => (
          <li key={step}>
            <button
              type="button"
              aria-current={step === current ? "step" : undefined}
              onClick={() => onChoose(step)}
              className={`flex w-full gap-3 narrow:gap-1.5 border-l-3 py-2.5 narrow:py-1.5 pr-2 pl-3 narrow:pl-2 text-left ${
                step === current ? "border-ochre bg-sheet" : "border-transparent hover:bg-sheet"
              }`}
            >
              <span className="num pt-px text-soft">{index + 1}</span>
              <span className="min-w-0">
                <span className={step === current ? "block font-semibold" : "block"}>{TITLES[step]}</span>
                <span className="num mt-0.5 narrow:hidden block text-[11px] leading-4 text-soft">
                  {states[step]}
                </span>
              </span>
            </button>
          </li>
        ))}
      </ol>
    </nav>
  );
}
