import type { Player } from "./player";
import { usePlayed } from "./use-player";

const SIZES: Record<number, string> = { 2: "half", 4: "a quarter of its" };

/** The quality given up to play in time. */
export function PlayingNote({ player }: { player: Player }) {
  const { on, part } = usePlayed(player);
  const size = SIZES[part];
  return (
    <span role="status" data-testid="playing-note">
      {on && size ? `playing at ${size} size` : ""}
    </span>
  );
}
