import { create } from "zustand";

type Outside = {
  /** The last change, if it is not a step of the framing's history; otherwise null. */
  last: string | null;
  /** What Undo was last pressed for in vain. */
  told: string | null;
};

/** Changes of the source and of the frame, which concern more than one framing and are in no history of one. */
export const useOutsideHistory = create<Outside>(() => ({ last: null, told: null }));

/** Note that something was changed that Undo does not take back. */
export const noteOutside = (what: string) => useOutsideHistory.setState({ last: what, told: null });

/** Note that a step of the history was made, which Undo does take back. */
export const noteInside = () => useOutsideHistory.setState({ last: null, told: null });

/**
 * Undo, unless the last change is not in the history: then say so and leave older steps alone. Pressed again it
 * undoes them.
 */
export function undoLast(undo: () => void) {
  const { last } = useOutsideHistory.getState();
  if (last) useOutsideHistory.setState({ last: null, told: last });
  else {
    useOutsideHistory.setState({ told: null });
    undo();
  }
}
