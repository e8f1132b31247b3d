import { create } from "zustand";
import type { Design, Plan } from "../../api/client";

/** What is seen of a framing that extends its scene changes while its plates are made; pictures of it are asked for anew then. */
export const useStamps = create<Record<number, string>>(() => ({}));

export function setStamp(framingId: number, stamp: string) {
  if (useStamps.getState()[framingId] !== stamp) useStamps.setState({ [framingId]: stamp });
}

/** Whether plates are seen of it: in the whole of it or in one of its shots. */
export const extendsScene = ({ surround, shots }: Plan | Design) =>
  [surround, ...shots.map((shot) => shot.surround)].some((one) => one?.kind === "extended");
