import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { Link, Navigate, useParams } from "react-router";
import type { Board } from "../api/client";
import { boardQuery, framingQuery } from "../api/queries";
import { useChanges } from "../api/use-changes";
import { useWalked } from "../history/history";
import { Header } from "../shell/header";
import { leftBoard } from "../ui/left-board";
import { ProblemNote } from "../ui/problem-note";
import { BenchProvider } from "./state/bench-provider";

/** The framing that the address names, for its children. Another framing starts fresh. */
export function FramingLoader({ children }: { children: ReactNode }) {
  const { projectId, framingId } = useParams();
  return (
    <Loader key={framingId} projectId={Number(projectId)} framingId={Number(framingId)}>
      {children}
    </Loader>
  );
}

type Props = { projectId: number; framingId: number; children: ReactNode };

function Loader({ projectId, framingId, children }: Props) {
  const { data: board, error: boardError } = useQuery(boardQuery(projectId));
  const { data: framing, error } = useQuery(framingQuery(framingId));
  useChanges(projectId);
  const gone = useWalked((walked) => walked.gone === framingId);
  const footage = board?.footage.find(({ id }) => id === framing?.footage);

  // People who can only view are sent to the board; so is a person whose undo removed this framing.
  if (board && (board.role === "see" || gone)) return <Navigate replace to={`/projects/${board.id}`} />;
  if (!board || !framing || !footage) {
    return (
      <div className="flex h-full flex-col">
        <Header projectId={projectId} trail={board && <BoardLink board={board} />} />
        <div className="p-6">
          <ProblemNote error={boardError ?? error} />
        </div>
      </div>
    );
  }
  return <BenchProvider {...{ board, framing, footage }}>{children}</BenchProvider>;
}

/** The project's name, which leads back to its board. */
export const BoardLink = ({ board }: { board: Board }) => (
  <Link className="max-w-60 truncate text-soft hover:text-ink" to={leftBoard(board.id)}>
    {board.name}
  </Link>
);
