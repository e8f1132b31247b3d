import { useState } from "react";
import type { Frame, FrameRow } from "../../../api/client";
import { Note } from "../../../ui/note";

type Props = { row: FrameRow; clips: number; set: (fields: Partial<Frame>) => void };

/** Change the active picture of a frame for every clip in it, and say how many clips that are, with the way back. */
export function useSharedChange({ row, clips, set }: Props) {
  const [before, setBefore] = useState<Frame | null>(null);
  function change(fields: Partial<Frame>) {
    setBefore((first) => first ?? row.frame);
    set(fields);
  }
  function undo() {
    if (before) set({ active: before.active, outside: before.outside, bar_colour: before.bar_colour });
    setBefore(null);
  }
  return {
    change,
    note: before && clips > 1 && (
      <Note
        text={`This changes all ${clips} clips in ${row.frame.name}.`}
        onUndo={undo}
        onClose={() => setBefore(null)}
      />
    ),
  };
}
