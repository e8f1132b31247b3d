import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import { api, type Board, unwrap } from "../api/client";
import { boardQuery, isWhole, rendersQuery, treatmentsQuery, visitorQuery } from "../api/queries";
import { useChanges } from "../api/use-changes";
import { AddFrame } from "../frames/add-frame";
import { useBarsAsked } from "../frames/ask-bars";
import { useCells } from "../frames/use-cells";
import { useHistory } from "../history/history";
import { HistoryButtons } from "../history/history-buttons";
import { WalkedNote } from "../history/walked-note";
import { LeftUploads } from "../intake/left-uploads";
import { RoomNote } from "../intake/room-note";
import { UploadList } from "../intake/upload-list";
import { useMaterialRemoval } from "../removal/use-material-removal";
import { newestOf } from "../rendering/rendered";
import { ShareDialog } from "../sharing/share-dialog";
import { Header } from "../shell/header";
import { inAddress } from "../ui/address";
import { Button } from "../ui/button";
import { useKeys } from "../ui/keyboard";
import { useLeftBoard } from "../ui/left-board";
import { Note } from "../ui/note";
import { ProblemNote } from "../ui/problem-note";
import { useTitle } from "../ui/use-title";
import { AddFootage } from "./add-footage";
import { arranged, type Order } from "./arranging";
import { BoardFilter } from "./board-filter";
import { BoardTable } from "./board-table";
import { EmptyBoard } from "./empty-board";
import { FirstTime } from "./first-time";
import { FrameNote } from "./frame-note";
import { Gone } from "./gone";
import { usePictureHeight } from "./pictures";
import { readIds, written } from "./selection";
import { SelectionBar } from "./selection-bar";
import { ShownBoard } from "./shown-board";
import { useArrangement } from "./use-arrangement";
import { useClipRemoval } from "./use-clip-removal";
import { useFrames } from "./use-frames";

const NO_FRAMES: Board["frames"] = [];
/** So many cells are changed before anybody has looked up. */
const MANY = 40;

/** The board as its visitor may have it. */
export function BoardPage() {
  const projectId = Number(useParams().projectId);
  const { data: board } = useQuery(boardQuery(projectId));
  useChanges(projectId);
  return board?.role === "see" ? <ShownBoard board={board} /> : <WorkingBoard projectId={projectId} />;
}

/** The board: clips down, frames across. */
function WorkingBoard({ projectId }: { projectId: number }) {
  const { data: board, error } = useQuery(boardQuery(projectId));
  useTitle(board?.name);
  const { data: visitor } = useQuery(visitorQuery);
  const { data: treatments } = useQuery(treatmentsQuery(projectId));
  const [query, setQuery] = useSearchParams();
  const [selected, setSelected] = useSelected();
  useLeftBoard(projectId);
  const [copied, setCopied] = useState<number | null>(null);
  const [sharing, setSharing] = useState(false);
  const order = useOrder(projectId);
  const removal = useClipRemoval(projectId);
  const materials = useMaterialRemoval(projectId);
  const cells = useCells(projectId);
  const frames = useFrames(projectId, board?.frames ?? []);
  const arrangement = useArrangement(projectId);
  const history = useHistory(projectId);
  const { data: ordered } = useQuery(rendersQuery(projectId));
  const renders = useMemo(() => newestOf(ordered ?? []), [ordered]);
  const sorted = (query.get("sort") ?? "added") as Order;
  const reason = query.get("look");
  const words = query.get("search") ?? "";
  const rows = useMemo(
    () => (board ? arranged(board, { order: sorted, reason, words, renders }) : []),
    [board, sorted, reason, words, renders],
  );
  const byHand = sorted === "added" && !reason && !words;
  const chosen = board?.cells.filter(({ id }) => selected.has(id)) ?? [];
  const chosenIds = chosen.map(({ id }) => id);

  const pictures = usePictureHeight(board?.frames ?? NO_FRAMES);
  const bars = useBarsAsked(board);
  function render(framings: number[]) {
    const frames = board?.cells.filter(({ id }) => framings.includes(id)).map(({ frame }) => frame) ?? [];
    bars.before(frames, () => order.mutate(framings));
  }

  useKeys([
    {
      keys: "$mod+Enter",
      does: chosen.length ? "Render the selected cells" : "Render all cells",
      act: () =>
        board && isWhole(board) && render(chosen.length ? chosenIds : board.cells.map(({ id }) => id)),
    },
  ]);

  return (
    <div className="flex min-h-full flex-col">
      <Header projectId={projectId} trail={<span className="truncate font-semibold">{board?.name}</span>}>
        <HistoryButtons undo={history.undo} redo={history.redo} onWalk={history.walk} />
      </Header>
      <main id="main" tabIndex={-1} className="grow p-6 outline-none">
        <div className="mb-4 flex flex-wrap items-center gap-4">
          <h1 className="min-w-0 text-[26px] font-bold tracking-tight wrap-anywhere">{board?.name}</h1>
          <p className="grow whitespace-nowrap text-soft">
            {board && summary(board)}
            {board?.role === "work" && ` · owner ${board.owner}`}
          </p>
          {board?.role === "own" && <Button onClick={() => setSharing(true)}>Share</Button>}
          {board && sharing && (
            <ShareDialog projectId={projectId} name={board.name} onClose={() => setSharing(false)} />
          )}
          <AddFootage projectId={projectId} folders={visitor?.folders ?? false} />
          <AddFrame projectId={projectId}>
            <Button>Add frame</Button>
          </AddFrame>
          <Button
            look="main"
            disabled={!board?.cells.length || !isWhole(board) || order.isPending}
            onClick={() => board && render(board.cells.map(({ id }) => id))}
          >
            Render all {board ? board.clips * board.frames.length : ""}
          </Button>
        </div>
        <ProblemNote
          error={
            error ??
            order.error ??
            cells.error ??
            history.error ??
            removal.error ??
            materials.error ??
            frames.error ??
            arrangement.error
          }
        />
        {removal.notes}
        {cells.doing > MANY && (
          <p
            role="status"
            className="fixed bottom-16 left-1/2 z-30 -translate-x-1/2 rounded border border-rule bg-sheet px-4 py-2 shadow-lg"
          >
            Changing {cells.doing} cells …
            <progress className="ml-3 h-1 w-32 align-middle" value={cells.fraction} max={1} />
          </p>
        )}
        {frames.done && <FrameNote projectId={projectId} frames={frames} />}
        {cells.done && (
          <Note
            text={cells.done.changed.length ? cells.done.label : "They were so already."}
            onUndo={cells.done.changed.length ? cells.undo : undefined}
            onClose={cells.forget}
          />
        )}
        <WalkedNote />
        <RoomNote visitor={visitor} />
        <UploadList />
        <LeftUploads projectId={projectId} />
        {board && ordered && <FirstTime board={board} rendered={ordered.length > 0} />}
        {board && board.footage.length > 0 && (
          <>
            <BoardFilter
              {...{ board, renders, query, pictures }}
              onChange={(next) => setQuery(next, { replace: true })}
            />
            <BoardTable
              {...{ board, rows, renders }}
              height={pictures.height}
              work={{
                folders: visitor?.folders ?? false,
                selected,
                onSelect: setSelected,
                onRemove: removal.remove,
                frames,
                onArrange: byHand ? arrangement.before : null,
              }}
            />
            {rows.length === 0 && (
              <p className="py-4 text-soft">
                {words
                  ? "No clip has these words in its name."
                  : "No clip is to be reviewed for that reason any more."}
              </p>
            )}
          </>
        )}
        {board && <Gone gone={board.gone} what="clips" onRestore={removal.restore} />}
        {board && (
          <Gone gone={board.gone_materials} what="pictures and captions" onRestore={materials.restore} />
        )}
        {board && <Gone gone={board.gone_frames} what="frames" onRestore={frames.restore} />}
        {board?.footage.length === 0 && <EmptyBoard />}
      </main>
      {bars.question}
      {chosen.length > 0 && (
        <SelectionBar
          treatments={treatments ?? []}
          selected={chosenIds}
          copied={copied}
          busy={cells.busy || order.isPending}
          onAct={(action, label) => cells.act({ cells: chosen, action, label })}
          onCopy={setCopied}
          onRender={() => render(chosenIds)}
          onClear={() => setSelected([])}
        />
      )}
    </div>
  );
}

function summary(board: Board): string {
  const many = (count: number, one: string) => `${count} ${one}${count === 1 ? "" : "s"}`;
  return `${many(board.clips, "clip")} · ${many(board.frames.length, "frame")} · ${many(board.clips * board.frames.length, "framing")}`;
}

/** The selected cells, which the address names. */
function useSelected() {
  const [query, setQuery] = useSearchParams();
  const [selected, select] = useState<ReadonlySet<number>>(() => readIds(query.get("cells") ?? ""));
  const named = written(selected);
  const set = useRef(setQuery);
  set.current = setQuery;
  useEffect(() => {
    if (named !== (inAddress({}).get("cells") ?? ""))
      set.current(inAddress({ cells: named }), { replace: true });
  }, [named]);
  return [selected, (ids: Iterable<number>) => select(new Set(ids))] as const;
}

function useOrder(projectId: number) {
  const client = useQueryClient();
  const navigate = useNavigate();
  return useMutation({
    mutationFn: (framings: number[]) =>
      unwrap(
        api.POST("/api/projects/{project_id}/renders", {
          params: { path: { project_id: projectId } },
          body: { framings },
        }),
      ),
    onSuccess: () => navigate(`/projects/${projectId}/renders`),
    onSettled: () => client.invalidateQueries({ queryKey: ["renders", projectId] }),
  });
}
