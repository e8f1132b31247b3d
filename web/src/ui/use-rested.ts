import { useEffect, useState } from "react";

/** A text once it has not changed for a while; null until then at the very first. */
export function useRested(text: string, milliseconds: number): string | null {
  const [rested, setRested] = useState<string | null>(null);
  useEffect(() => {
    const pause = setTimeout(() => setRested(text), milliseconds);
    return () => clearTimeout(pause);
  }, [text, milliseconds]);
  return rested;
}
