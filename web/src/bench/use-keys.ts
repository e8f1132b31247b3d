import { useEffect } from "react";
import { type KeyBindingMap, tinykeys } from "tinykeys";
import type { RangeOf } from "./use-range";
import type { Transport } from "./use-transport";

const FIELDS = "input:not([type=color]), textarea, select, [role=dialog] *";
const OF_SLIDERS = ["home", "end"];

/** Whether a key belongs to what has the focus. */
export function busy(target: EventTarget | null, key: string): boolean {
  if (!(target instanceof Element)) return false;
  if (target.matches("[role=slider]") && OF_SLIDERS.includes(key)) return true;
  // Space presses what the keyboard has reached; a button last touched by hand leaves it to playing.
  return target.matches(FIELDS) || (key === " " && target.matches("button:focus-visible, a:focus-visible"));
}

/** The keys of the bench. J, K, L, I, O, space and the arrows are the trade's. */
export function useKeys(
  transport: Transport,
  { mark }: RangeOf,
  acts: Partial<Record<"undo" | "redo" | "f" | "n" | "t", () => void>> = {},
) {
  const { undo, redo, f, n, t } = acts;
  useEffect(() => {
    const plain: Record<string, (() => void) | undefined> = {
      Space: transport.toggle,
      j: () => transport.faster(-1),
      k: transport.stop,
      l: () => transport.faster(1),
      Home: () => transport.go(0),
      End: () => transport.go(Number.MAX_SAFE_INTEGER),
      i: () => mark({ first: transport.frame }),
      o: () => mark({ last: transport.frame }),
      f,
      n,
      t,
      "$mod+z": undo,
      "$mod+Shift+z": redo,
    };
    const bindings: KeyBindingMap = Object.fromEntries(
      Object.entries(plain).map(([keys, act]) => [
        keys,
        (event: KeyboardEvent) => {
          if (!act || busy(event.target, event.key.toLowerCase()) || event.repeat) return;
          event.preventDefault();
          act();
        },
      ]),
    );
    return tinykeys(window, bindings);
  }, [transport, mark, undo, redo, f, n, t]);
}
