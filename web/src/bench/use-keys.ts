import { useEffect, useState } from "react";
import type { Transport } from "./use-transport";

const FIELDS = "input:not([type=color]), textarea, select, [role=slider], [role=dialog] *";

function busy(target: EventTarget | null, key: string): boolean {
  if (!(target instanceof Element)) return false;
  // Space presses what the keyboard has reached; a button last touched by hand leaves it to playing.
  return target.matches(FIELDS) || (key === " " && target.matches("button:focus-visible, a:focus-visible"));
}

/** The keys of the bench. J, K, L, space and the arrows are the trade's. */
export function useKeys(transport: Transport, undo: () => void, redo: () => void) {
  const [held, setHeld] = useState({ surroundOff: false, outside: false });

  useEffect(() => {
    const plain: Record<string, () => void> = {
      " ": transport.toggle,
      j: () => transport.faster(-1),
      k: transport.stop,
      l: () => transport.faster(1),
      home: () => transport.go(0),
      end: () => transport.go(Number.MAX_SAFE_INTEGER),
    };
    function onKeyDown(event: KeyboardEvent) {
      const key = event.key.toLowerCase();
      if (busy(event.target, key)) return;
      if ((event.ctrlKey || event.metaKey) && key === "z") {
        event.preventDefault();
        if (event.shiftKey) redo();
        else undo();
        return;
      }
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (key === "b") setHeld((now) => ({ ...now, surroundOff: true }));
      if (key === "o") setHeld((now) => ({ ...now, outside: true }));
      const act = plain[key];
      if (act && !event.repeat) {
        event.preventDefault();
        act();
      }
    }
    function onKeyUp(event: KeyboardEvent) {
      const key = event.key.toLowerCase();
      if (key === "b") setHeld((now) => ({ ...now, surroundOff: false }));
      if (key === "o") setHeld((now) => ({ ...now, outside: false }));
    }
    window.addEventListener("keydown", onKeyDown);
    window.addEventListener("keyup", onKeyUp);
    return () => {
      window.removeEventListener("keydown", onKeyDown);
      window.removeEventListener("keyup", onKeyUp);
    };
  }, [transport, undo, redo]);

  return held;
}
