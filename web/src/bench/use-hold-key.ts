import { useEffect, useRef } from "react";
import { busy, useListed } from "../ui/keyboard";

/** Call something with true when a key is pressed and with false when it is released. */
export function useHoldKey(key: string, does: string, hold: (on: boolean) => void) {
  useListed([{ keys: key, does }]);
  const latest = useRef(hold);
  latest.current = hold;
  useEffect(() => {
    function onKeyDown(event: KeyboardEvent) {
      if (busy(event.target, key) || event.ctrlKey || event.metaKey || event.altKey || event.repeat) return;
      if (event.key.toLowerCase() === key) latest.current(true);
    }
    function onKeyUp(event: KeyboardEvent) {
      if (event.key.toLowerCase() === key) latest.current(false);
    }
    window.addEventListener("keydown", onKeyDown);
    window.addEventListener("keyup", onKeyUp);
    return () => {
      window.removeEventListener("keydown", onKeyDown);
      window.removeEventListener("keyup", onKeyUp);
    };
  }, [key]);
}
