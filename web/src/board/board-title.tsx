import { useState } from "react";
import type { Board, Cell } from "../api/client";
import { isWhole } from "../api/queries";
import { AddFrame } from "../frames/add-frame";
import { ShareDialog } from "../sharing/share-dialog";
import { Button } from "../ui/button";
import { useKeys } from "../ui/keyboard";
import { AddFootage } from "./add-footage";
import type { CellRendering } from "./use-cell-rendering";

type Props = { board: Board; folders: boolean; rendering: CellRendering; chosen: Cell[] };

/** The name and contents of the project, with actions on the whole project. */
export function BoardTitle({ board, folders, rendering, chosen }: Props) {
  const [sharing, setSharing] = useState(false);
  useKeys([
    {
      keys: "$mod+Enter",
      does: chosen.length ? "Render the selected cells" : "Render all cells",
      act: () => isWhole(board) && rendering.render(chosen.length ? chosen : board.cells),
    },
  ]);
  return (
    <div className="mb-4 flex flex-wrap items-center gap-4">
      <h1 className="min-w-0 text-[26px] font-bold tracking-tight wrap-anywhere">{board.name}</h1>
      <p className="grow whitespace-nowrap text-soft">
        {summary(board)}
        {board.role === "work" && ` · owner ${board.owner}`}
      </p>
      {board.role === "own" && <Button onClick={() => setSharing(true)}>Share</Button>}
      {sharing && <ShareDialog projectId={board.id} name={board.name} onClose={() => setSharing(false)} />}
      <AddFootage projectId={board.id} folders={folders} />
      <AddFrame projectId={board.id}>
        <Button>Add frame</Button>
      </AddFrame>
      <Button
        look="main"
        disabled={!board.cells.length || !isWhole(board) || rendering.busy}
        onClick={() => rendering.render(board.cells)}
      >
        Render all {board.clips * board.frames.length}
      </Button>
    </div>
  );
}

function summary({ clips, frames }: Board): string {
  const many = (count: number, noun: string) => `${count} ${noun}${count === 1 ? "" : "s"}`;
  return [many(clips, "clip"), many(frames.length, "frame"), many(clips * frames.length, "framing")].join(
    " · ",
  );
}
