import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams, useSearchParams } from "react-router";
import type { Board } from "../api/client";
import { boardQuery, treatmentsQuery, visitorQuery } from "../api/queries";
import { useChanges } from "../api/use-changes";
import { useCells } from "../frames/use-cells";
import { useHistory } from "../history/history";
import { HistoryButtons } from "../history/history-buttons";
import { WalkedNote } from "../history/walked-note";
import { LeftUploads } from "../intake/left-uploads";
import { RoomNote } from "../intake/room-note";
import { UploadList } from "../intake/upload-list";
import { useMaterialRemoval } from "../removal/use-material-removal";
import { Header } from "../shell/header";
import { useLeftBoard } from "../ui/left-board";
import { ProblemNote } from "../ui/problem-note";
import { useTitle } from "../ui/use-title";
import { BoardFilter } from "./board-filter";
import { BoardProvider, type BoardState } from "./board-store";
import { BoardTable } from "./board-table";
import { BoardTitle } from "./board-title";
import { CellsNote } from "./cells-note";
import { EmptyBoard } from "./empty-board";
import { FirstTime } from "./first-time";
import { FrameNote } from "./frame-note";
import { Gone } from "./gone";
import { usePictureHeight } from "./pictures";
import { SelectionBar } from "./selection-bar";
import { ShownBoard } from "./shown-board";
import { useArrangement } from "./use-arrangement";
import { useCellRendering } from "./use-cell-rendering";
import { useClipRemoval } from "./use-clip-removal";
import { useFrames } from "./use-frames";
import { useRows } from "./use-rows";
import { useSelected } from "./use-selected";

/** The board as its visitor may have it. */
export function BoardPage() {
  const projectId = Number(useParams().projectId);
  const { data: board, error } = useQuery(boardQuery(projectId));
  useChanges(projectId);
  if (board?.role === "see") return <ShownBoard board={board} />;
  if (board) return <WorkingBoard board={board} error={error} />;
  return (
    <div className="flex min-h-full flex-col">
      <Header projectId={projectId} />
      <div className="p-6">
        <ProblemNote error={error} />
      </div>
    </div>
  );
}

/** The board: clips down, frames across. */
function WorkingBoard({ board, error }: { board: Board; error: unknown }) {
  const projectId = board.id;
  useTitle(board.name);
  useLeftBoard(projectId);
  const { data: visitor } = useQuery(visitorQuery);
  const { data: treatments } = useQuery(treatmentsQuery(projectId));
  const listed = useRows(board, useSearchParams()[0]);
  const [selected, select] = useSelected();
  const removal = useClipRemoval(projectId);
  const materials = useMaterialRemoval(projectId);
  const cells = useCells(projectId);
  const frames = useFrames(projectId, board.frames);
  const history = useHistory(projectId);
  const rendering = useCellRendering(projectId);
  const [copied, setCopied] = useState<number | null>(null);
  const chosen = board.cells.filter(({ id }) => selected.has(id));
  const problem = [rendering, cells, history, removal, materials, frames].find((one) => one.error);
  const folders = visitor?.folders ?? false;
  return (
    <div className="flex min-h-full flex-col">
      <Header projectId={projectId} trail={<span className="truncate font-semibold">{board.name}</span>}>
        <HistoryButtons undo={history.undo} redo={history.redo} onWalk={history.walk} />
      </Header>
      <main id="main" tabIndex={-1} className="grow p-6 outline-none">
        <BoardTitle {...{ board, folders, rendering, chosen }} />
        <ProblemNote error={error ?? problem?.error} />
        {removal.notes}
        <FrameNote projectId={projectId} frames={frames} />
        <CellsNote cells={cells} />
        <WalkedNote />
        <RoomNote visitor={visitor} />
        <UploadList />
        <LeftUploads projectId={projectId} />
        {listed.ordered && <FirstTime board={board} rendered={listed.ordered.length > 0} />}
        {board.footage.length > 0 && (
          <Clips {...{ board, folders, selected, select, frames }} rows={listed} removal={removal} />
        )}
        <Gone gone={board.gone} what="clips" onRestore={removal.restore} />
        <Gone gone={board.gone_materials} what="pictures and captions" onRestore={materials.restore} />
        <Gone gone={board.gone_frames} what="frames" onRestore={frames.restore} />
        {board.footage.length === 0 && <EmptyBoard />}
      </main>
      {rendering.sheet}
      {chosen.length > 0 && (
        <SelectionBar
          {...{ chosen, cells, rendering, copied }}
          treatments={treatments ?? []}
          onCopy={setCopied}
          onClear={() => select([])}
        />
      )}
    </div>
  );
}

type ClipsProps = Pick<BoardState, "board" | "folders" | "selected" | "select" | "frames"> & {
  rows: ReturnType<typeof useRows>;
  removal: ReturnType<typeof useClipRemoval>;
};

/** The filter and the table of clips. */
function Clips({ board, rows: listed, removal, ...state }: ClipsProps) {
  const { rows, renders, byHand, words } = listed;
  const [query, setQuery] = useSearchParams();
  const pictures = usePictureHeight(board.frames);
  const arrangement = useArrangement(board.id);
  return (
    <>
      <ProblemNote error={arrangement.error} />
      <BoardFilter
        {...{ board, renders, query, pictures }}
        onChange={(next) => setQuery(next, { replace: true })}
      />
      <BoardProvider
        state={{
          ...state,
          ...{ board, rows, renders },
          height: pictures.height,
          working: true,
          arrangeable: byHand,
          arrange: arrangement.before,
          removeClip: removal.remove,
          open: () => undefined,
        }}
      >
        <BoardTable />
      </BoardProvider>
      {rows.length === 0 && (
        <p className="py-4 text-soft">
          {words ? "No clip has these words in its name." : "No clip is left to review for that reason."}
        </p>
      )}
    </>
  );
}
