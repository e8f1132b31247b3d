import { type ReactNode, useLayoutEffect, useState } from "react";
import { createStore } from "zustand/vanilla";
import type { Board } from "../api/client";
import type { Rendered } from "../rendering/rendered";
import { pageStore } from "../ui/page-store";
import type { Row } from "./arranging";
import type { FrameActions } from "./use-frames";

/** What the board shows, and what can be done on it. */
export type BoardState = {
  board: Board;
  /** The clips that are shown, in their order. */
  rows: Row[];
  renders: ReadonlyMap<number, Rendered>;
  /** The height of all pictures, in pixels. */
  height: number;
  /** Whether the visitor works on the board; otherwise cells are opened by `open`, and nothing can be changed. */
  working: boolean;
  /** Whether clips can be added from folders on the server. */
  folders: boolean;
  /** Whether rows can be moved: only in the order that people gave them. */
  arrangeable: boolean;
  selected: ReadonlySet<number>;
  select: (ids: Iterable<number>) => void;
  removeClip: (footageId: number) => void;
  /** Put a clip before another, or last. */
  arrange: (id: number, before: number | null) => void;
  open: (cell: number) => void;
  frames: FrameActions | null;
};
/** The cell that the tab key reaches; null is the first one. */
type Focus = { focused: number | null; focusOn: (cell: number) => void };

const {
  Provider,
  useFields: useBoard,
  useValue: useBoardValue,
  useGetState: useBoardState,
} = pageStore<BoardState & Focus>();

export { useBoard, useBoardState, useBoardValue };

/** A board that is only viewed. */
export const ONLY_VIEWED: Omit<BoardState, "board" | "rows" | "renders" | "height" | "open"> = {
  working: false,
  folders: false,
  arrangeable: false,
  selected: new Set<number>(),
  select: () => undefined,
  removeClip: () => undefined,
  arrange: () => undefined,
  frames: null,
};

/** The board's state, for all components in it. */
export function BoardProvider({ state, children }: { state: BoardState; children: ReactNode }) {
  const [store] = useState(() =>
    createStore<BoardState & Focus>()((set) => ({
      ...state,
      focused: null,
      focusOn: (focused) => set({ focused }),
    })),
  );
  useLayoutEffect(() => store.setState(state));
  return <Provider value={store}>{children}</Provider>;
}
