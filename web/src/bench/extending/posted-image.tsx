import { useEffect, useRef, useState } from "react";
import { postRaw } from "../../api/client";

/** The address of an image that is asked for with a body; null until it is there, or where there is none. */
export function usePosted(address: string, body: object | null, stamp = ""): string | null {
  const key = body && JSON.stringify([address, body, stamp]);
  const [url, setUrl] = useState<string | null>(null);
  const held = useRef<string | null>(null);
  useEffect(() => {
    if (!key) {
      setUrl(null);
      return;
    }
    const [to, given] = JSON.parse(key) as [string, object];
    const leave = new AbortController();
    postRaw(to, {
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify(given),
      signal: leave.signal,
    })
      .then(async (response) => {
        if (leave.signal.aborted) return;
        const next = response.status === 204 ? null : URL.createObjectURL(await response.blob());
        if (held.current) URL.revokeObjectURL(held.current);
        held.current = next;
        setUrl(next);
      })
      .catch(() => undefined);
    return () => leave.abort();
  }, [key]);
  useEffect(
    () => () => {
      if (held.current) URL.revokeObjectURL(held.current);
    },
    [],
  );
  return url;
}
