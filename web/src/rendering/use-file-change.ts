import type { FrameRow, Settings } from "../api/client";
import { useFrame } from "../frames/use-frame";

/** Changing the file settings of a frame from the sheet. */
export function useFileChange(row: FrameRow, onChanged: () => void) {
  const { write, error } = useFrame(row);
  return {
    error,
    set(fields: Partial<Settings>) {
      write(fields);
      onChanged();
    },
  };
}
