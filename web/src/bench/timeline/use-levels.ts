import { queryOptions, useQuery } from "@tanstack/react-query";
import type { Footage } from "../../api/client";

/** Levels a second, and the level of full scale; see the answer of the server. */
const RATE = 100;
const FULL = 255;

const AGAIN_MS = 2000;
const BEING_ANALYSED = 202;

const levelsQuery = ({ id, stamp, info }: Footage) =>
  queryOptions({
    queryKey: ["levels", id, stamp],
    enabled: info.sounds.length > 0,
    queryFn: async () => {
      const answer = await fetch(`/api/footage/${id}/levels?stamp=${stamp}`);
      if (!answer.ok || answer.status === BEING_ANALYSED) return null;
      return new Levels(new Uint8Array(await answer.arrayBuffer()));
    },
    refetchInterval: ({ state }) => (state.data ? false : AGAIN_MS),
    staleTime: Number.POSITIVE_INFINITY,
  });

/** How loud a clip's sound is; null where it has none, and until that is known. */
export function useLevels(footage: Footage): Levels | null {
  return useQuery(levelsQuery(footage)).data ?? null;
}

/** Peaks of sound from 0 to 1, in equal steps of decibels. */
export class Levels {
  constructor(private readonly bytes: Uint8Array) {}

  /** The highest between two moments, in seconds. */
  between(start: number, end: number): number {
    const first = Math.floor(start * RATE);
    const last = Math.max(first + 1, Math.ceil(end * RATE));
    return this.bytes.subarray(first, last).reduce((high, one) => Math.max(high, one), 0) / FULL;
  }
}
