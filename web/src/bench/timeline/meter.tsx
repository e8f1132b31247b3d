import type { CSSProperties } from "react";
import { toNumber } from "../../ui/exact";
import { useBench, useFrame, useSpeed } from "../state/use-bench";
import type { Levels } from "./use-levels";

/** The level of the sound at the playhead while it plays. */
export function Meter({ levels }: { levels: Levels | null }) {
  const { rate } = useBench("rate");
  const seconds = useFrame() / toNumber(rate);
  const plays = useSpeed() !== 0;
  const level = plays && levels ? levels.between(seconds, seconds + 1 / toNumber(rate)) : 0;
  return (
    <meter
      aria-label="Sound level"
      title="Peak of the sound, −60 to 0 dB"
      className="level h-16 w-2 shrink-0 bg-rule"
      style={{ "--level": level } as CSSProperties}
      value={level}
    />
  );
}
