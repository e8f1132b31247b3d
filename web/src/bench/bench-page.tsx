import { useQuery } from "@tanstack/react-query";
import { Link, Navigate, useParams } from "react-router";
import type { Board } from "../api/client";
import { boardQuery, rendersQuery } from "../api/queries";
import { useChanges } from "../api/use-changes";
import { useWalked } from "../history/history";
import { progressOf } from "../rendering/progress";
import { Header } from "../shell/header";
import { leftBoard } from "../ui/left-board";
import { ProblemNote } from "../ui/problem-note";
import { stemOf } from "../ui/stem";
import { useTitle } from "../ui/use-title";
import { BenchView } from "./bench";
import { useFraming } from "./use-framing";

/** The bench: one framing. Another framing starts fresh, without anything tried on the previous one. */
export function BenchPage() {
  const { projectId, framingId } = useParams();
  return <OneFraming key={framingId} project={Number(projectId)} framingId={Number(framingId)} />;
}

function OneFraming({ project, framingId }: { project: number; framingId: number }) {
  const { data: board, error: boardError } = useQuery(boardQuery(project));
  const bench = useFraming(project, framingId);
  useChanges(project);
  const footage = board?.footage.find((clip) => clip.id === bench.stored?.footage);
  const error = boardError ?? bench.error;
  const renders = useQuery(rendersQuery(project)).data;
  const clip = footage && stemOf(footage.name);
  useTitle(progressOf(renders?.filter((one) => one.framing === framingId) ?? []), clip, board?.name);

  const gone = useWalked((walked) => walked.gone === framingId);

  // People who can only view are sent to the board, and so is who undid what brought this framing.
  if (board && (board.role === "see" || gone)) return <Navigate replace to={`/projects/${board.id}`} />;
  if (!board || !footage || !bench.stored || !bench.plan || !bench.measure) {
    return (
      <div className="flex h-full flex-col">
        <Header projectId={project} trail={board && <Trail board={board} />} />
        <div className="p-6">
          <ProblemNote error={error} />
        </div>
      </div>
    );
  }
  return (
    <BenchView
      {...{ board, footage, error, bench }}
      framing={bench.stored}
      plan={bench.plan}
      measure={bench.measure}
      trail={<Trail board={board} clip={stemOf(footage.name)} />}
    />
  );
}

function Trail({ board, clip }: { board: Board; clip?: string }) {
  return (
    <>
      <Link className="max-w-60 truncate text-soft hover:text-ink" to={leftBoard(board.id)}>
        {board.name}
      </Link>
      {clip && <span className="text-soft">/</span>}
      {clip && <h1 className="truncate font-semibold">{clip}</h1>}
    </>
  );
}
