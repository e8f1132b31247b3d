import { useEffect, useId, useLayoutEffect, useRef } from "react";
import { type KeyBindingMap, tinykeys } from "tinykeys";
import { create } from "zustand";

/**
 * A key and its action here. Without `act` another part of the page listens to it. A key that `repeats` acts
 * again and again while it is held down.
 */
export type KeyUse = { keys: string; does: string; act?: (() => void) | undefined; repeats?: boolean };

const FIELDS = "input:not([type=color]):not([type=checkbox]):not([type=radio]), textarea, select";
/** Inside of them keys are theirs. */
const WITHIN = "[role=dialog] *, [role=menu] *";
/** Elements that Space presses if the keyboard reached them; after a pointer, Space plays. */
const PRESSED = "button, a, summary, video, input";
const OF_SLIDERS = ["home", "end"];
const ARROWS = ["arrowleft", "arrowright", "arrowup", "arrowdown"];
/** What arrow keys move or walk through themselves. */
const WALKED =
  "[role=slider], [role=application], [role=radio], [role=tab], [role=grid] *, [role=toolbar] *, [role=separator]";

/**
 * The element that a pointer focused or pressed. The browser's :focus-visible does not help: it becomes true with the very
 * key that asks.
 */
let pressedByPointer: EventTarget | null = null;
let pointing = false;
const CAPTURE = { capture: true };
window.addEventListener("pointerdown", () => (pointing = true), CAPTURE);
window.addEventListener("keydown", () => (pointing = false), CAPTURE);
window.addEventListener(
  "focusin",
  ({ target }) => {
    pressedByPointer = pointing ? target : null;
  },
  CAPTURE,
);
window.addEventListener(
  "click",
  ({ detail }) => {
    if (detail > 0) pressedByPointer = document.activeElement;
  },
  CAPTURE,
);

/** Whether a key belongs to the focused element. */
export function busy(target: EventTarget | null, key: string): boolean {
  if (!(target instanceof Element)) return false;
  if (target.matches("[role=slider]") && OF_SLIDERS.includes(key)) return true;
  if (key === " " && target.matches(PRESSED) && target !== pressedByPointer) return true;
  if (ARROWS.includes(key) && target.matches(WALKED)) return true;
  return target.matches(FIELDS) || target.matches(WITHIN);
}

type Listed = Pick<KeyUse, "keys" | "does">;

/** The keys of all that is on the page now. */
export const useKeyList = create<Record<string, Listed[]>>(() => ({}));

/** Let keys be found in the list of them. */
export function useListed(uses: Listed[]) {
  const id = useId();
  const text = JSON.stringify(uses.map(({ keys, does }) => ({ keys, does })));
  useEffect(() => {
    useKeyList.setState({ [id]: JSON.parse(text) });
    return () => useKeyList.setState(({ [id]: _, ...others }) => others, true);
  }, [id, text]);
}

/** Keys of the page. A key that is held down is one press, unless it repeats. */
export function useKeys(uses: KeyUse[]) {
  useListed(uses);
  const latest = useRef(uses);
  latest.current = uses;
  const all = uses.map(({ keys }) => keys).join(" ");
  // Visible parts of the page listen already.
  useLayoutEffect(() => {
    const bindings: KeyBindingMap = Object.fromEntries(
      all.split(" ").map((keys) => [
        keys,
        (event: KeyboardEvent) => {
          const { act, repeats } = latest.current.find((use) => use.keys === keys) ?? {};
          if (!act || event.defaultPrevented || busy(event.target, event.key.toLowerCase())) return;
          if (event.repeat && !repeats) return;
          event.preventDefault();
          act();
        },
      ]),
    );
    return tinykeys(window, bindings);
  }, [all]);
}
