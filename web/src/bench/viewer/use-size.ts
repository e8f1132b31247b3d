import { type RefObject, useLayoutEffect, useState } from "react";

/** How large an element is on the screen, now and whenever that changes; nothing until it is laid out. */
export function useSize(place: RefObject<HTMLElement | null>) {
  const [size, setSize] = useState({ width: 0, height: 0 });
  useLayoutEffect(() => {
    const element = place.current;
    if (!element) return;
    const observer = new ResizeObserver(() =>
      setSize({ width: element.clientWidth, height: element.clientHeight }),
    );
    observer.observe(element);
    return () => observer.disconnect();
  }, [place]);
  return size;
}
