import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Board, Footage } from "../api/client";
import { rendersQuery } from "../api/queries";
import { Header } from "../ui/header";
import { useKeys } from "../ui/keyboard";
import { PatientImage } from "../ui/patient-image";
import { useTitle } from "../ui/use-title";
import { ClipShown } from "./clip-shown";

/** A project as those see it who may only look: every clip in every frame, and what is finished of them. */
export function ShownBoard({ board }: { board: Board }) {
  useTitle(board.name);
  const { data: renders } = useQuery(rendersQuery(board.id));
  const [open, setOpen] = useState<number | null>(null);
  const finished = new Map(
    [...(renders ?? [])]
      .reverse()
      .filter(({ state, cleared }) => state === "done" && !cleared)
      .map((render) => [render.framing, render]),
  );
  const step = (by: number) =>
    open !== null && setOpen((open + by + board.footage.length) % board.footage.length);
  useKeys([
    { keys: "PageDown", does: "The next clip", act: open === null ? undefined : () => step(1) },
    { keys: "PageUp", does: "The clip before", act: open === null ? undefined : () => step(-1) },
  ]);
  const clip = open === null ? undefined : board.footage[open];
  return (
    <div className="flex min-h-full flex-col">
      <Header trail={<span className="truncate font-semibold">{board.name}</span>} />
      <main id="main" tabIndex={-1} className="grow p-6 outline-none">
        <h1 className="text-[26px] font-bold tracking-tight wrap-anywhere">{board.name}</h1>
        <p className="mb-5 text-soft">
          Shared by {board.owner}, to look at. Press a clip to see it in all its frames
          {finished.size > 0 &&
            `; ${finished.size} of them ${finished.size === 1 ? "is" : "are"} finished and can be played`}
          .
          {board.downloads && finished.size > 0 && (
            <>
              {" "}
              <a className="text-ochre underline" href={`/api/projects/${board.id}/delivery/files`}>
                Take all finished files along
              </a>
            </>
          )}
        </p>
        <ul className="grid gap-1">
          {board.footage.map((footage, index) => (
            <ClipLine
              key={footage.id}
              {...{ board, footage }}
              finished={(id) => finished.has(id)}
              onOpen={() => setOpen(index)}
            />
          ))}
        </ul>
        {clip && (
          <ClipShown {...{ board, finished }} footage={clip} onStep={step} onClose={() => setOpen(null)} />
        )}
      </main>
    </div>
  );
}

type Line = { board: Board; footage: Footage; finished: (framing: number) => boolean; onOpen: () => void };

function ClipLine({ board, footage, finished, onOpen }: Line) {
  const cells = board.cells.filter((cell) => cell.footage === footage.id);
  const played = cells.filter(({ id }) => finished(id)).length;
  return (
    <li>
      <button
        type="button"
        className="flex w-full items-center gap-4 rounded border border-transparent px-2 py-2 text-left hover:border-rule hover:bg-sheet"
        onClick={onOpen}
      >
        <span className="w-52 shrink-0">
          <span className="block wrap-anywhere font-semibold">{footage.name}</span>
          <span className="block text-soft">{footage.summary}</span>
          {played > 0 && (
            <span className="num block text-moss">
              {played} of {cells.length} finished
            </span>
          )}
        </span>
        <span className="flex min-w-0 grow items-end gap-3 overflow-hidden">
          {cells.map(({ id, stamp, frame }) => {
            const into = board.frames.find((one) => one.id === frame);
            if (!into) return null;
            return (
              <span key={id} className="shrink-0">
                <PatientImage
                  alt=""
                  loading="lazy"
                  className="max-h-36 max-w-64 bg-well"
                  src={`/api/framings/${id}/thumbnail?width=480&stamp=${stamp}`}
                />
                <span className="block text-soft">{into.frame.name}</span>
              </span>
            );
          })}
        </span>
      </button>
    </li>
  );
}
