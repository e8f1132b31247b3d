import { type RefObject, useEffect, useState } from "react";

const AHEAD = "900px 0px";

/** Whether an element is in sight or will soon be; once it has been, it stays so. */
export function useNear(place: RefObject<Element | null>, atFirst: boolean): boolean {
  const [near, setNear] = useState(atFirst);
  useEffect(() => {
    const element = place.current;
    if (near || !element) return;
    const observer = new IntersectionObserver(
      ([entry]) => {
        if (entry?.isIntersecting) setNear(true);
      },
      { rootMargin: AHEAD },
    );
    observer.observe(element);
    return () => observer.disconnect();
  }, [near, place]);
  return near;
}
