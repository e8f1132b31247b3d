import { Toolbar } from "radix-ui";
import type { Measure } from "../api/client";
import { useBench } from "./state/use-bench";

type Props = { onChoose: (offsetX: string, offsetY: string, label: string) => void };

const ACROSS = ["left", "middle", "right"] as const;
const DOWN = ["top", "middle", "bottom"] as const;
const MEETS: Record<string, Measure["snaps_across"][number]["meets"]> = {
  left: "first_edge",
  top: "first_edge",
  middle: "middle",
  right: "second_edge",
  bottom: "second_edge",
};

/** Nine places at which the picture's edges or centre meet the frame's; the offsets come with the measure. */
export function Anchors({ onChoose }: Props) {
  const { measure } = useBench("measure");
  const offset = (snaps: Measure["snaps_across"], side: string) =>
    snaps.find(({ meets }) => meets === MEETS[side])?.offset ?? "0";
  return (
    <Toolbar.Root aria-label="Anchors" className="grid w-fit grid-cols-3 gap-px border border-rule bg-rule">
      {DOWN.flatMap((down) =>
        ACROSS.map((across) => {
          const name = down === across ? "middle" : `${down} ${across}`;
          return (
            <Toolbar.Button
              key={name}
              aria-label={name}
              title={name}
              className="flex h-7 w-9 items-center justify-center bg-sheet hover:bg-paper"
              onClick={() =>
                onChoose(offset(measure.snaps_across, across), offset(measure.snaps_down, down), name)
              }
            >
              <span className="h-1.5 w-1.5 bg-ink" />
            </Toolbar.Button>
          );
        }),
      )}
    </Toolbar.Root>
  );
}
