import { useEffect, useRef } from "react";

/** What Escape does while something is held; it says whether the key was its own. */
export function useEscape(act: () => boolean) {
  const latest = useRef(act);
  latest.current = act;
  useEffect(() => {
    function onKeyDown(event: KeyboardEvent) {
      if (event.key !== "Escape" || !latest.current()) return;
      event.stopPropagation();
      event.preventDefault();
    }
    window.addEventListener("keydown", onKeyDown, { capture: true });
    return () => window.removeEventListener("keydown", onKeyDown, { capture: true });
  }, []);
}
