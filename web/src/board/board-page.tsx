import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type DragEvent, useRef, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { answered, api, type Board } from "../api/client";
import { boardQuery, projectsQuery } from "../api/queries";
import { Button } from "../ui/button";
import { Header } from "../ui/header";
import { ProblemNote } from "../ui/problem-note";
import { AddFrame } from "./add-frame";
import { BoardTable } from "./board-table";
import { UploadList } from "./upload-list";
import { useUploads } from "./uploads";

/** The board: clips down, frames across. */
export function BoardPage() {
  const projectId = Number(useParams().projectId);
  const { data: board, error } = useQuery(boardQuery(projectId));
  const [over, setOver] = useState(false);
  const picker = useRef<HTMLInputElement>(null);
  const add = useUploads((store) => store.add);
  const client = useQueryClient();
  const renderAll = useRenderAll(projectId);

  function take(files: FileList | null) {
    for (const file of files ?? [])
      add(projectId, file, () => client.invalidateQueries({ queryKey: ["board", projectId] }));
  }

  function onDrop(event: DragEvent) {
    event.preventDefault();
    setOver(false);
    take(event.dataTransfer.files);
  }

  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: files can also be chosen with the button
    <div
      className="flex min-h-full flex-col"
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={(event) => event.currentTarget === event.target && setOver(false)}
      onDrop={onDrop}
    >
      <Header projectId={projectId} trail={<span className="font-semibold">{board?.name}</span>} />
      <main className={`grow p-6 ${over ? "outline-2 -outline-offset-8 outline-ochre outline-dashed" : ""}`}>
        <div className="mb-5 flex items-center gap-6">
          <h1 className="text-[26px] font-bold tracking-tight">{board?.name}</h1>
          <p className="grow text-soft">{board && summary(board)}</p>
          <input
            ref={picker}
            type="file"
            multiple
            hidden
            aria-label="Footage to add"
            onChange={(event) => {
              take(event.target.files);
              event.target.value = "";
            }}
          />
          <Button onClick={() => picker.current?.click()}>Add footage</Button>
          <AddFrame projectId={projectId}>
            <Button>Add frame</Button>
          </AddFrame>
          <Button
            look="main"
            disabled={!board?.framings.length || renderAll.isPending}
            onClick={() => board && renderAll.mutate(board)}
          >
            Render all {board?.framings.length ?? ""}
          </Button>
        </div>
        <ProblemNote error={error ?? renderAll.error} />
        <UploadList />
        {board && board.footage.length > 0 && <BoardTable board={board} />}
        {board?.footage.length === 0 && <EmptyBoard projectId={projectId} />}
      </main>
    </div>
  );
}

function summary(board: Board): string {
  const many = (count: number, one: string) => `${count} ${one}${count === 1 ? "" : "s"}`;
  return `${many(board.footage.length, "clip")} into ${many(board.frames.length, "frame")}, ${many(board.framings.length, "framing")}`;
}

function useRenderAll(projectId: number) {
  const client = useQueryClient();
  const navigate = useNavigate();
  return useMutation({
    mutationFn: async (board: Board) => {
      for (const { id } of board.framings)
        await answered(
          api.POST("/api/framings/{framing_id}/renders", { params: { path: { framing_id: id } } }),
        );
    },
    onSuccess: () => navigate(`/projects/${projectId}/renders`),
    onSettled: () => client.invalidateQueries({ queryKey: ["renders", projectId] }),
  });
}

function EmptyBoard({ projectId }: { projectId: number }) {
  const { data } = useQuery(projectsQuery);
  const example = data?.find((project) => project.clips > 0 && project.id !== projectId);
  return (
    <section className="mt-10 max-w-xl border-l-3 border-ochre bg-sheet px-5 py-4">
      <h2 className="mb-1 text-[15px] font-semibold">Drop clips anywhere on this page</h2>
      <p className="text-soft">
        MP4, MOV, MKV, AVI, MXF or MPEG, of any shape and rate. Each clip becomes a row, each frame a column,
        and every cell shows the clip in that frame: whole, over a blurred copy of itself, until you change
        it.
      </p>
      {example && (
        <p className="mt-2">
          Or look at{" "}
          <Link className="text-ochre underline" to={`/projects/${example.id}`}>
            {example.name}
          </Link>{" "}
          to see how it goes.
        </p>
      )}
    </section>
  );
}
