import { useEffect } from "react";
import { useLocation } from "react-router";

const WAITS_MS = 4000;

/** After a change of page the keyboard focus is on its main part, and never on nothing. */
export function RouteFocus() {
  const { pathname } = useLocation();
  // biome-ignore lint/correctness/useExhaustiveDependencies: runs for each page
  useEffect(() => {
    const until = performance.now() + WAITS_MS;
    let request = requestAnimationFrame(function look() {
      const { activeElement } = document;
      if (activeElement && activeElement !== document.body) return;
      const main = document.querySelector<HTMLElement>("main");
      if (main) main.focus({ preventScroll: true });
      else if (performance.now() < until) request = requestAnimationFrame(look);
    });
    return () => cancelAnimationFrame(request);
  }, [pathname]);
  return null;
}
