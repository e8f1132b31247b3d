import { create } from "zustand";

/** What the page is busy with, so that less urgent requests wait. */
export const useActivity = create(() => ({
  /** Something plays: nothing else asks for pictures. */
  playing: false,
  /** The viewer waits for its picture: small pictures come after it. */
  viewerWaits: false,
}));
