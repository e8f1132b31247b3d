import { toNumber } from "../../ui/exact";

/** What the hand snaps to at a place: the nearest within reach; of two as near, the first. */
export function nearest<S extends { offset: string }>(snaps: S[], wanted: number, reach: number): S | null {
  const away = ({ offset }: S) => Math.abs(toNumber(offset) - wanted);
  const close = snaps.filter((snap) => away(snap) <= reach);
  return close.sort((one, other) => away(one) - away(other))[0] ?? null;
}
