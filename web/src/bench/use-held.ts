import { useCallback, useEffect, useRef, useState } from "react";
import { busy, useListed } from "../ui/keyboard";

const nothing = () => undefined;

/** A state while a key or button is held; a callback runs when it starts. */
export function useHeld(
  key: string,
  does: string,
  onStart: () => void = nothing,
): [boolean, (on: boolean) => void] {
  useListed([{ keys: key, does }]);
  const [held, setHeld] = useState(false);
  const begin = useRef(onStart);
  begin.current = onStart;
  const hold = useCallback((on: boolean) => {
    if (on) begin.current();
    setHeld(on);
  }, []);

  useEffect(() => {
    function onKeyDown(event: KeyboardEvent) {
      if (busy(event.target, key) || event.ctrlKey || event.metaKey || event.altKey || event.repeat) return;
      if (event.key.toLowerCase() === key) hold(true);
    }
    function onKeyUp(event: KeyboardEvent) {
      if (event.key.toLowerCase() === key) hold(false);
    }
    window.addEventListener("keydown", onKeyDown);
    window.addEventListener("keyup", onKeyUp);
    return () => {
      window.removeEventListener("keydown", onKeyDown);
      window.removeEventListener("keyup", onKeyUp);
    };
  }, [key, hold]);

  return [held, hold];
}
