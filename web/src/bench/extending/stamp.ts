import { create } from "zustand";

/** What is seen of a framing that extends its scene changes while its plates are made; pictures of it are asked for anew then. */
export const useStamps = create<Record<number, string>>(() => ({}));

export function setStamp(framingId: number, stamp: string) {
  if (useStamps.getState()[framingId] !== stamp) useStamps.setState({ [framingId]: stamp });
}
