import { create } from "zustand";
import type { Design, Plan } from "../../api/client";

/** While plates of a framing are made its picture changes; then pictures are fetched again. */
export const useStamps = create<Record<number, string>>(() => ({}));

export function setStamp(framingId: number, stamp: string) {
  if (useStamps.getState()[framingId] !== stamp) useStamps.setState({ [framingId]: stamp });
}

/** Whether plates are seen of it: in the whole of it or in one of its shots. */
export const extendsScene = ({ surround, shots }: Plan | Design) =>
  [surround, ...shots.map((shot) => shot.surround)].some((one) => one?.kind === "extended");
