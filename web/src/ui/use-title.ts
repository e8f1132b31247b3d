import { useEffect } from "react";

/** What the browser calls this page: the nearest first. */
export function useTitle(...parts: (string | null | undefined)[]) {
  const title = [...parts.filter(Boolean), "Cadrage"].join(" · ");
  useEffect(() => {
    document.title = title;
  }, [title]);
}
