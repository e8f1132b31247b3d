import type { ReactNode } from "react";
import { useLocation, useNavigate } from "react-router";
import { inAddress } from "../ui/address";
import { useKeys } from "../ui/keyboard";
import { stemOf } from "../ui/stem";
import { useBench } from "./state/use-bench";

/** Which frame this clip is being put into; the others are one choice away. */
export function IntoFrame() {
  const { board, framing } = useBench("board", "framing");
  const navigate = useNavigate();
  const { search } = useLocation();
  return (
    <label className="flex items-center gap-2 whitespace-nowrap text-soft">
      <span className="snug:sr-only">into</span>
      <select
        className="max-w-56 snug:max-w-40 rounded border border-edge bg-sheet px-2 py-1.5 font-semibold text-ink"
        value={framing.id}
        onChange={(event) => navigate(`/projects/${board.id}/framings/${event.target.value}${search}`)}
      >
        {board.cells
          .filter((other) => other.footage === framing.footage)
          .map((other) => {
            const row = board.frames.find((frame) => frame.id === other.frame);
            return (
              <option key={other.id} value={other.id}>
                {row?.frame.name} {row?.shape} {row?.frame.width}×{row?.frame.height}
              </option>
            );
          })}
      </select>
    </label>
  );
}

/** The clips before and after this one on the board, in the same frame and at the same step. */
export function Neighbours() {
  const { board, framing, step } = useBench("board", "framing", "step");
  const navigate = useNavigate();
  const at = board.footage.findIndex(({ id }) => id === framing.footage);

  function neighbour(by: number): Neighbour {
    const clip = board.footage[at + by];
    const cell = board.cells.find(({ footage, frame }) => footage === clip?.id && frame === framing.frame);
    const address = cell && `/projects/${board.id}/framings/${cell.id}`;
    return {
      name: clip && stemOf(clip.name),
      go: address ? () => navigate(`${address}?${inAddress({ at: null, step })}`) : undefined,
    };
  }
  const [before, after] = [neighbour(-1), neighbour(1)];
  useKeys([
    { keys: "PageUp", does: "To the clip before, in this frame", act: before.go },
    { keys: "PageDown", does: "To the clip after", act: after.go },
  ]);

  return (
    <div className="flex">
      <ToClip {...before} label="Previous clip">
        ‹ Previous
      </ToClip>
      <ToClip {...after} label="Next clip">
        Next ›
      </ToClip>
    </div>
  );
}

type Neighbour = { name: string | undefined; go: (() => void) | undefined };

function ToClip({ name, go, label, children }: Neighbour & { label: string; children: ReactNode }) {
  return (
    <button
      type="button"
      disabled={!go}
      onClick={go}
      title={name}
      aria-label={label}
      className="rounded px-2 py-1.5 whitespace-nowrap text-soft hover:bg-sheet hover:text-ink disabled:opacity-45"
    >
      {children}
    </button>
  );
}
