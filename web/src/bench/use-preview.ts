import { useEffect, useRef, useState } from "react";
import { useStore } from "zustand";
import { createStore } from "zustand/vanilla";
import { type Design, type Plan, postRaw } from "../api/client";
import { designOf } from "./editor/scope";
import { extendsScene, useStamps } from "./extending/stamp";
import { driving } from "./use-transport";

type Wanted = { framingId: number; plan: Plan | Design; time: string; width: number };
/** The picture shown, its moment, and the request that it answers. */
type Shown = { url: string | null; time: string | null; error: unknown; of: string | null } | null;

/** Whether the well waits for a picture: small ones come after it. */
export const wellWaits = createStore(() => ({ waits: false }));

/** Whether the well has shown a picture, so that what can wait may come. */
export function useAfterWell(): boolean {
  const waits = useStore(wellWaits, (store) => store.waits);
  const [after, setAfter] = useState(false);
  useEffect(() => {
    // The viewer may have started waiting in this very turn.
    if (!waits && !wellWaits.getState().waits) setAfter(true);
  }, [waits]);
  return after;
}

/** Names this page among all that the visitor has open. */
const PAGE = Math.random().toString(36).slice(2);
const AT_ONCE = 2;
let lastTicket = 0;

/** A number for a request: higher than those of all before it. */
export function ticket(): number {
  lastTicket = Math.max(lastTicket + 1, Date.now());
  return lastTicket;
}

/**
 * The composed frame for a place on the page. Only the newest request is answered; older ones are dropped. With
 * `patient` lets the well go first.
 */
export function usePreview(slot: string, wanted: Wanted | null, { patient = false } = {}) {
  const [shown, setShown] = useState<Shown>(null);
  const flying = useRef(0);
  const waiting = useRef<(Wanted & { of: string }) | null>(null);
  const newest = useRef(0);
  // The server knows the frame, the clip and its range; if they change, the picture changes.
  const stamp = useStamps((all) => (wanted && extendsScene(wanted.plan) && all[wanted.framingId]) || "");
  const key =
    wanted && JSON.stringify({ ...wanted, stamp, plan: { ...wanted.plan, ...designOf(wanted.plan) } });

  const driven = useStore(driving, ({ any }) => any);
  const behind = useStore(wellWaits, ({ waits }) => waits && patient);
  const held = driven || behind;

  const asked = useRef<string | null>(null);
  useEffect(() => {
    // The viewer may have started waiting in this very turn.
    if (!key || held || key === asked.current || (patient && wellWaits.getState().waits)) return;
    asked.current = key;
    const { stamp: _, ...wish } = JSON.parse(key) as Wanted & { stamp: string };
    waiting.current = { ...wish, of: key };

    async function send() {
      const next = waiting.current;
      if (!next || flying.current >= AT_ONCE) return;
      waiting.current = null;
      flying.current++;
      const number = ticket();
      try {
        const { of: _, ...wish } = next;
        const url = await fetchPreview(`${PAGE} ${slot}`, number, wish);
        if (url && number > newest.current) {
          newest.current = number;
          setShown((old) => {
            if (old?.url) URL.revokeObjectURL(old.url);
            return { url, time: next.time, error: null, of: next.of };
          });
        } else if (url) URL.revokeObjectURL(url);
      } catch (error) {
        if (number > newest.current)
          setShown((old) => ({ url: old?.url ?? null, time: old?.time ?? null, error, of: next.of }));
      } finally {
        flying.current--;
        send();
      }
    }

    send();
  }, [key, slot, held, patient]);

  const last = useRef<string | null>(null);
  last.current = shown?.url ?? null;
  useEffect(
    () => () => {
      if (last.current) URL.revokeObjectURL(last.current);
    },
    [],
  );

  return shown && { ...shown, awaited: key !== null && shown.of !== key };
}

async function fetchPreview(
  slot: string,
  number: number,
  { framingId, plan, ...wish }: Wanted,
): Promise<string | null> {
  const response = await postRaw(`/api/framings/${framingId}/preview`, {
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify({ ...wish, design: designOf(plan), slot, ticket: number }),
  });
  if (response.status === 204) return null;
  const url = URL.createObjectURL(await response.blob());
  const image = new Image();
  image.src = url;
  await image.decode();
  return url;
}
