import { useLocation, useNavigate } from "react-router";
import type { Board, Framing } from "../api/client";
import { inAddress } from "../ui/address";
import { stemOf } from "../ui/stem";
import type { StepName } from "./steps";

type Props = { board: Board; framing: Framing; step: StepName };

/** Which frame this clip is being put into; the others are one choice away. */
export function IntoFrame({ board, framing }: Omit<Props, "step">) {
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
export function Neighbours({ board, framing, step }: Props) {
  const navigate = useNavigate();
  const at = board.footage.findIndex(({ id }) => id === framing.footage);

  function neighbour(by: number) {
    const clip = board.footage[at + by];
    const cell = board.cells.find(({ footage, frame }) => footage === clip?.id && frame === framing.frame);
    const go =
      cell && (() => navigate(`/projects/${board.id}/framings/${cell.id}?${inAddress({ at: null, step })}`));
    const name = clip && stemOf(clip.name);
    return (
      <button
        type="button"
        disabled={!go}
        onClick={go}
        title={name}
        aria-label={by < 0 ? "Previous clip" : "Next clip"}
        className="rounded px-2 py-1.5 whitespace-nowrap text-soft hover:bg-sheet hover:text-ink disabled:opacity-45"
      >
        {by < 0 ? "‹ Previous" : "Next ›"}
      </button>
    );
  }

  return (
    <div className="flex">
      {neighbour(-1)}
      {neighbour(1)}
    </div>
  );
}
