import { toNumber } from "../ui/exact";
import { useKeys } from "../ui/keyboard";
import { nextDoubt } from "./following/follow";
import type { BenchState, View } from "./state/types";
import { useBench, useBenchState } from "./state/use-bench";
import { STEPS, TITLES } from "./steps";
import { frameAt } from "./timecode";
import { useBenchUrl } from "./use-bench-url";
import { useHoldKey } from "./use-hold-key";
import { useRange } from "./use-range";
import { toggledFullSize } from "./viewer/view";

/** The keys of a clip's time. J, K, L, I, O, space and the arrows are the trade's. */
export function useTimeKeys() {
  const { transport } = useBench("transport");
  const { mark } = useRange();
  useKeys([
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
  ]);
}

/** The settings of the step: where the keyboard goes after a key has chosen one. */
const PANEL = "[data-panel]";
const focus = (found: string) => document.querySelector<HTMLElement>(found)?.focus({ preventScroll: true });

/** The keys of the bench. */
export function useBenchKeys() {
  const { goToStep } = useBenchUrl();
  const { show } = useBench("show");
  const state = useBenchState();
  const toggle = (flag: "fullScreen" | "scopes" | "tinted") => () => show({ [flag]: !state()[flag] });
  useTimeKeys();
  useHoldKeys(show);
  useKeys([
    ...STEPS.map((step, at) => ({
      keys: String(at + 1),
      does: `Step ${TITLES[step]}`,
      act: () => {
        goToStep(step);
        focus(PANEL);
      },
    })),
    { keys: "g", does: "To the picture, to nudge it", act: () => focus("main [role=application]") },
    { keys: "f", does: "Full screen, and back", act: toggle("fullScreen") },
    { keys: "n", does: "To the next place where following may be wrong", act: () => goToDoubt(state()) },
    {
      keys: "x",
      does: "The frame pixel for pixel, and back",
      act: () => show(toggledFullSize(state().zoom)),
    },
    { keys: "w", does: "Scopes, and away", act: toggle("scopes") },
    { keys: "t", does: "Highlight invented pixels", act: toggle("tinted") },
  ]);
}

/** Views that last while a key is held. */
function useHoldKeys(show: (fields: Partial<View>) => void) {
  useHoldKey("b", "Held: the picture without its surround", (surroundOff) => show({ surroundOff }));
  useHoldKey("h", "Held: what lies outside the frame", (cropHeld) => show({ cropHeld }));
  useHoldKey("z", "Held: the frame under the pointer, pixel for pixel", (loupeHeld) => show({ loupeHeld }));
}

/** Go to the next place where a window that follows may be wrong. */
function goToDoubt({ transport, wholePlan, rate }: BenchState) {
  const doubt = nextDoubt(wholePlan, (transport.frame + 0.5) / toNumber(rate));
  if (doubt) transport.go(frameAt(doubt.start, rate));
}
