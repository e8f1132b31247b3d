import { useEffect } from "react";
import { useLocation } from "react-router";

const WAITS_MS = 4000;

/** After another page has come, the keyboard goes on at what it is about, and never at nothing. */
export function RouteFocus() {
  const { pathname } = useLocation();
  // biome-ignore lint/correctness/useExhaustiveDependencies: done anew for each page
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
