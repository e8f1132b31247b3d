import { usePlayed } from "../state/use-bench";

const SIZES: Record<number, string> = { 2: "half", 4: "a quarter of its" };

/** The quality given up to play in time. */
export function PlayingNote() {
  const { on, part } = usePlayed();
  const size = SIZES[part];
  return (
    <span role="status" data-testid="playing-note">
      {on && size ? `playing at ${size} size` : ""}
    </span>
  );
}
