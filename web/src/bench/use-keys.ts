import { type KeyUse, useKeys } from "../ui/keyboard";
import { STEPS, type StepName, TITLES } from "./steps";
import type { RangeOf } from "./use-range";
import type { Transport } from "./use-transport";

type Acts = {
  choose: (step: StepName) => void;
  wholeScreen: () => void;
  nextDoubt: () => void;
  tint: () => void;
  scopes: () => void;
  lookFull: () => void;
  render: () => void;
};

/** The keys of a clip's time. J, K, L, I, O, space and the arrows are the trade's. */
export function timeKeys(transport: Transport, { mark }: RangeOf): KeyUse[] {
  return [
    { keys: "Space", does: "Play, stop", act: transport.toggle },
    { keys: "j", does: "Play backwards; again, faster", act: () => transport.faster(-1) },
    { keys: "k", does: "Stop", act: transport.stop },
    { keys: "l", does: "Play; again, faster", act: () => transport.faster(1) },
    { keys: "ArrowLeft", does: "One frame back", act: () => transport.step(-1), repeats: true },
    { keys: "ArrowRight", does: "One frame on", act: () => transport.step(1), repeats: true },
    { keys: "Shift+ArrowLeft", does: "Ten frames back", act: () => transport.step(-10), repeats: true },
    { keys: "Shift+ArrowRight", does: "Ten frames on", act: () => transport.step(10), repeats: true },
    { keys: "Home", does: "To the first picture", act: () => transport.go(0) },
    { keys: "End", does: "To the last picture", act: () => transport.go(Number.MAX_SAFE_INTEGER) },
    { keys: "i", does: "The range begins here", act: () => mark({ first: transport.frame }) },
    { keys: "o", does: "The range ends here", act: () => mark({ last: transport.frame }) },
  ];
}

/** The first control of a step: where the keyboard goes after a key has chosen the step. */
export const PANEL = "[data-panel]";
const reach = (found: string) => document.querySelector<HTMLElement>(found)?.focus({ preventScroll: true });

/** The keys of the bench. */
export function useBenchKeys(transport: Transport, range: RangeOf, acts: Acts) {
  useKeys([
    ...timeKeys(transport, range),
    ...STEPS.map((step, at) => ({
      keys: String(at + 1),
      does: `Step ${TITLES[step]}`,
      act: () => {
        acts.choose(step);
        reach(PANEL);
      },
    })),
    { keys: "g", does: "To the picture, to nudge it", act: () => reach("main [role=application]") },
    { keys: "$mod+Enter", does: "Render", act: acts.render },
    { keys: "f", does: "Full screen, and back", act: acts.wholeScreen },
    { keys: "n", does: "To the next place where following may be wrong", act: acts.nextDoubt },
    { keys: "x", does: "The frame pixel for pixel, and back", act: acts.lookFull },
    { keys: "w", does: "Scopes, and away", act: acts.scopes },
    { keys: "t", does: "Highlight invented pixels", act: acts.tint },
  ]);
}
