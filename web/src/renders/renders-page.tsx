import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import type { Board, Render } from "../api/client";
import { AT_WORK, boardQuery, rendersQuery } from "../api/queries";
import { useChanges } from "../api/use-changes";
import { FramingPicture, MOMENTS } from "../frames/framing-picture";
import { progressOf } from "../rendering/progress";
import { RenderCard } from "../rendering/render-card";
import { failedCheck } from "../rendering/rendered";
import { Header } from "../shell/header";
import { leftBoard } from "../ui/left-board";
import { ProblemNote } from "../ui/problem-note";
import { stemOf } from "../ui/stem";
import { useTitle } from "../ui/use-title";
import { Delivery } from "./delivery";
import { KeepRule } from "./keep-rule";
import { QueueBar } from "./queue-bar";

const ACTIVE = ["running", "queued", "paused"];

/** Failures, then renders in progress, then the queue in its order, then the rest, newest first. */
function inOrder(renders: Render[]): Render[] {
  const failed = renders.filter((render) => render.state === "failed" || failedCheck(render));
  const active = renders.filter(({ state }) => AT_WORK.includes(state));
  active.sort(
    (one, other) => ACTIVE.indexOf(one.state) - ACTIVE.indexOf(other.state) || one.rank - other.rank,
  );
  const shown = new Set([...failed, ...active]);
  return [...shown, ...renders.filter((render) => !shown.has(render))];
}

const HEIGHT = 96;
const MIDDLE = ["middle"] as const;

/** The pictures of a render's framing: its middle, and once it is done its first and last frame as well. */
function Pictures({ render, board }: { render: Render; board: Board }) {
  const row = board.frames.find(({ id }) => id === render.frame);
  const cell = board.cells.find(({ id }) => id === render.framing);
  if (!row || !cell) return null;
  return (
    <span className="flex max-w-full gap-1 overflow-x-auto">
      {(render.state === "done" ? MOMENTS : MIDDLE).map((at) => (
        <FramingPicture
          key={at}
          framing={cell.id}
          stamp={cell.stamp}
          frame={row.frame}
          height={HEIGHT}
          at={at}
          alt={`${at} frame`}
          className="bg-well"
        />
      ))}
    </span>
  );
}

/** All renders of a project. */
export function RendersPage() {
  const projectId = Number(useParams().projectId);
  const { data: board } = useQuery(boardQuery(projectId));
  const { data: renders, error } = useQuery(rendersQuery(projectId));
  useChanges(projectId);
  useTitle(progressOf(renders ?? []), "Renders", board?.name);
  return (
    <div className="flex min-h-full flex-col">
      <Header
        projectId={projectId}
        trail={
          <>
            {board && (
              <Link className="text-soft hover:text-ink" to={leftBoard(projectId)}>
                {board.name}
              </Link>
            )}
            <span className="text-soft">/</span>
            <span className="font-semibold">Renders</span>
          </>
        }
      />
      <main id="main" tabIndex={-1} className="outline-none w-full max-w-6xl p-6">
        <div className="mb-4 flex flex-wrap items-baseline gap-5">
          <h1 className="grow text-[26px] font-bold tracking-tight">Renders</h1>
          {renders?.some(({ state, cleared }) => state === "done" && !cleared) && (
            <Delivery projectId={projectId} />
          )}
        </div>
        <ProblemNote error={error} />
        <QueueBar projectId={projectId} />
        <ul className="grid gap-2">
          {inOrder(renders ?? []).map((render) => (
            <RenderRow key={render.id} {...{ render, board, projectId }} />
          ))}
        </ul>
        {renders?.length === 0 && (
          <p className="text-soft">Nothing has been rendered yet. Render on the board or on the bench.</p>
        )}
        {renders && renders.length > 0 && (
          <div className="mt-6">
            <KeepRule projectId={projectId} />
          </div>
        )}
      </main>
    </div>
  );
}

type RowProps = { render: Render; board: Board | undefined; projectId: number };

const RenderRow = ({ render, board, projectId }: RowProps) => (
  <li className="flex flex-wrap items-center gap-4 rounded border border-rule bg-sheet px-4 py-2.5">
    {board && <Pictures render={render} board={board} />}
    <RenderCard
      render={render}
      projectId={projectId}
      heading={
        <Link
          className="font-semibold hover:underline"
          to={`/projects/${projectId}/framings/${render.framing}?step=check`}
        >
          {stemOf(render.clip)} <span className="font-normal text-soft">→</span> {render.into}
        </Link>
      }
    />
  </li>
);
