import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { boardQuery, rendersQuery } from "../api/queries";
import { Header } from "../ui/header";
import { ProblemNote } from "../ui/problem-note";
import { RenderCard } from "./render-card";

/** All renders of a project, newest first. */
export function RendersPage() {
  const projectId = Number(useParams().projectId);
  const { data: board } = useQuery(boardQuery(projectId));
  const { data: renders, error } = useQuery(rendersQuery(projectId));
  return (
    <div className="flex min-h-full flex-col">
      <Header
        projectId={projectId}
        trail={
          <>
            <Link className="text-soft hover:text-ink" to={`/projects/${projectId}`}>
              {board?.name}
            </Link>
            <span className="text-soft">/</span>
            <span className="font-semibold">Renders</span>
          </>
        }
      />
      <main className="w-full max-w-4xl p-6">
        <div className="mb-4 flex items-baseline gap-5">
          <h1 className="grow text-[26px] font-bold tracking-tight">Renders</h1>
          {renders?.some(({ state }) => state === "done") && <Delivery projectId={projectId} />}
        </div>
        <ProblemNote error={error} />
        <ul className="grid gap-3">
          {renders?.map((render) => (
            <li key={render.id} className="rounded border border-rule bg-sheet p-4">
              <RenderCard
                render={render}
                projectId={projectId}
                heading={
                  <Link
                    className="font-semibold hover:underline"
                    to={`/projects/${projectId}/framings/${render.framing}?step=check`}
                  >
                    {render.clip.replace(/\.[^.]+$/, "")} <span className="font-normal text-soft">into</span>{" "}
                    {render.into}
                  </Link>
                }
              />
            </li>
          ))}
        </ul>
        {renders?.length === 0 && (
          <p className="text-soft">
            Nothing has been rendered yet. Order a render on the board or on a bench.
          </p>
        )}
      </main>
    </div>
  );
}

/** The newest finished file of every framing, together, and the sheet that goes with them. */
function Delivery({ projectId }: { projectId: number }) {
  const address = `/api/projects/${projectId}/delivery`;
  return (
    <>
      <span className="flex gap-2 text-soft">
        <a className="text-ochre underline" href={`${address}/sheet`} target="_blank" rel="noreferrer">
          Delivery sheet
        </a>
        as
        <a className="text-ochre underline" href={`${address}/sheet?form=csv`}>
          CSV
        </a>
        <a className="text-ochre underline" href={`${address}/sheet?form=json`}>
          JSON
        </a>
      </span>
      <a
        className="rounded border border-rule bg-sheet px-3 py-1.5 font-semibold hover:border-soft"
        href={`${address}/files`}
      >
        Download all
      </a>
    </>
  );
}
