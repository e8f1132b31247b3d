import { useBench } from "./state/use-bench";
import { STEPS, type StepName, TITLES } from "./steps";
import { useBenchUrl } from "./use-bench-url";
import { checkWords, useRenders } from "./use-renders";

/** The steps in the order people work, each with its present state. */
export function Steps() {
  const { measure, step: current, board, framing } = useBench("measure", "step", "board", "framing");
  const { goToStep } = useBenchUrl();
  const states: Record<StepName, string> = {
    ...measure.summary,
    file: board.frames.find(({ id }) => id === framing.frame)?.file ?? "",
    check: checkWords(useRenders()),
  };
  return (
    <nav aria-label="Steps" className="pt-3 narrow:pt-0">
      <ol className="narrow:flex narrow:flex-wrap">
        {STEPS.map((step, index) => (
          <li key={step}>
            <button
              type="button"
              aria-current={step === current ? "step" : undefined}
              onClick={() => goToStep(step)}
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
