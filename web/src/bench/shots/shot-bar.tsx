import { Button } from "../../ui/button";
import { TickRow } from "../../ui/tick-row";
import type { Part } from "../editor/scope";
import { useBench } from "../state/use-bench";
import { ownOf } from "./shots";
import { useCut } from "./use-cut";

const NAMES: Record<Part, string> = {
  placement: "placement",
  motion: "movement",
  surround: "surround",
  finish: "finish",
};

/** The current shot, whether changes are for it alone, and its custom parts. */
export function ShotBar() {
  const {
    wholePlan,
    shot: number,
    time,
    inShot,
    loopShot,
    editing,
    show,
  } = useBench("wholePlan", "shot", "time", "inShot", "loopShot", "editing", "show");
  const cut = useCut();
  const { shots } = wholePlan;
  const look = (pressed: boolean) =>
    `grow px-2 py-1 ${pressed ? "bg-ink text-paper" : "bg-sheet hover:bg-paper"}`;
  return (
    <section aria-label="Shot" className="grid gap-2 border-rule border-b pb-4">
      <h2 className="flex justify-between font-semibold">
        Shot {number + 1} of {shots.length}
        <span className="flex gap-3 font-normal">
          <Button look="link" disabled={editing} onClick={() => cut({ do: "split", time })}>
            Split here
          </Button>
          {number > 0 && (
            <Button look="link" disabled={editing} onClick={() => cut({ do: "join", number })}>
              Join with previous
            </Button>
          )}
        </span>
      </h2>
      <div className="flex border border-rule">
        <button
          type="button"
          aria-pressed={inShot}
          className={look(inShot)}
          onClick={() => show({ inShot: true })}
        >
          This shot
        </button>
        <button
          type="button"
          aria-pressed={!inShot}
          className={look(!inShot)}
          onClick={() => show({ inShot: false })}
        >
          Whole clip
        </button>
      </div>
      <TickRow ticked={loopShot} onChange={(on) => show({ loopShot: on })}>
        Loop this shot
      </TickRow>
      <CustomParts />
    </section>
  );
}

/** The parts that the shot sets itself, and copying them to other shots. */
function CustomParts() {
  const { wholePlan, shot: number, inShot, editing } = useBench("wholePlan", "shot", "inShot", "editing");
  const cut = useCut();
  const own = ownOf(wholePlan.shots[number]);
  const last = wholePlan.shots.length - 1;
  return (
    <>
      {own.length === 0 && <p className="text-soft">Same as whole clip.</p>}
      {own.map((part) => (
        <p key={part} className="flex justify-between">
          <span>
            Custom {NAMES[part]}
            {!inShot && ", which stays"}
          </span>
          <Button look="link" disabled={editing} onClick={() => cut({ do: "as_whole", number, part })}>
            same as whole clip
          </Button>
        </p>
      ))}
      {own.length > 0 && (
        <p className="flex gap-4">
          {number < last && (
            <Button look="link" disabled={editing} onClick={() => cut({ do: "copy_next", number })}>
              Copy to next
            </Button>
          )}
          <Button look="link" disabled={editing} onClick={() => cut({ do: "copy_all", number })}>
            Copy to all
          </Button>
        </p>
      )}
    </>
  );
}
