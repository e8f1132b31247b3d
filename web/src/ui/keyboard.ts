import { useEffect, useId, useLayoutEffect, useRef } from "react";
import { type KeyBindingMap, tinykeys } from "tinykeys";
import { create } from "zustand";

/** A key and what it does here. Without `act` it is another part of the page that listens to it. */
export type KeyUse = { keys: string; does: string; act?: (() => void) | undefined };

const FIELDS = "input:not([type=color]):not([type=checkbox]):not([type=radio]), textarea, select";
/** Inside of them keys are theirs. */
const WITHIN = "[role=dialog] *, [role=menu] *";
/** What Space presses once the keyboard has reached it; last touched by hand they leave it to playing. */
const PRESSED = ["button", "a", "summary", "video", "input"];
const OF_SLIDERS = ["home", "end"];

/** Whether a key belongs to what has the focus. */
export function busy(target: EventTarget | null, key: string): boolean {
  if (!(target instanceof Element)) return false;
  if (target.matches("[role=slider]") && OF_SLIDERS.includes(key)) return true;
  if (key === " " && target.matches(PRESSED.map((name) => `${name}:focus-visible`).join())) return true;
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

/** Keys of the page. A key that is held down is one press. */
export function useKeys(uses: KeyUse[]) {
  useListed(uses);
  const latest = useRef(uses);
  latest.current = uses;
  const all = uses.map(({ keys }) => keys).join(" ");
  // What is seen of the page listens already.
  useLayoutEffect(() => {
    const bindings: KeyBindingMap = Object.fromEntries(
      all.split(" ").map((keys) => [
        keys,
        (event: KeyboardEvent) => {
          const act = latest.current.find((use) => use.keys === keys)?.act;
          if (!act || busy(event.target, event.key.toLowerCase()) || event.repeat) return;
          event.preventDefault();
          act();
        },
      ]),
    );
    return tinykeys(window, bindings);
  }, [all]);
}
