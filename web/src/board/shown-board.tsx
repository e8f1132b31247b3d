import { useState } from "react";
import type { Board } from "../api/client";
import { Header } from "../shell/header";
import { useKeys } from "../ui/keyboard";
import { useTitle } from "../ui/use-title";
import { PictureSize } from "./board-filter";
import { BoardProvider, ONLY_VIEWED } from "./board-store";
import { BoardTable } from "./board-table";
import { ClipShown } from "./clip-shown";
import { usePictureHeight } from "./pictures";
import { useRows } from "./use-rows";

/** A project for people who can only view: every clip in every frame, with the finished files. */
export function ShownBoard({ board }: { board: Board }) {
  useTitle(board.name);
  const { rows, renders, ordered } = useRows(board);
  const pictures = usePictureHeight(board.frames);
  const [open, setOpen] = useState<number | null>(null);
  const finished = new Map(
    [...(ordered ?? [])]
      .reverse()
      .filter(({ state, cleared }) => state === "done" && !cleared)
      .map((render) => [render.framing, render]),
  );
  const step = (by: number) =>
    open !== null && setOpen((open + by + board.footage.length) % board.footage.length);
  useKeys([
    { keys: "PageDown", does: "Next clip", act: open === null ? undefined : () => step(1) },
    { keys: "PageUp", does: "Previous clip", act: open === null ? undefined : () => step(-1) },
  ]);
  const clip = open === null ? undefined : board.footage[open];
  return (
    <div className="flex min-h-full flex-col">
      <Header trail={<span className="truncate font-semibold">{board.name}</span>} />
      <main id="main" tabIndex={-1} className="grow p-6 outline-none">
        <h1 className="text-[26px] font-bold tracking-tight wrap-anywhere">{board.name}</h1>
        <p className="mb-5 text-soft">
          Shared by {board.owner}. Select a picture to see the clip in all its frames
          {finished.size > 0 &&
            `; ${finished.size} of them ${finished.size === 1 ? "is" : "are"} finished and can be played`}
          .
          {board.downloads && finished.size > 0 && (
            <>
              {" "}
              <a className="text-ochre underline" href={`/api/projects/${board.id}/delivery/files`}>
                Download all finished files
              </a>
            </>
          )}
        </p>
        <div className="mb-2 flex justify-end">
          <PictureSize {...pictures} />
        </div>
        <BoardProvider
          state={{
            ...ONLY_VIEWED,
            ...{ board, rows, renders, height: pictures.height },
            open: (cell) => setOpen(rows.findIndex(({ cells }) => cells.some((one) => one?.id === cell))),
          }}
        >
          <BoardTable />
        </BoardProvider>
        {clip && (
          <ClipShown {...{ board, finished }} footage={clip} onStep={step} onClose={() => setOpen(null)} />
        )}
      </main>
    </div>
  );
}
