import type { ReactNode } from "react";
import type { Render } from "../api/client";
import { AT_WORK } from "../api/queries";
import { Button } from "../ui/button";
import { Menu } from "../ui/menu";
import { ProblemNote } from "../ui/problem-note";
import { stemOf } from "../ui/stem";
import { useRender } from "./use-render";
import { megabytes, remaining } from "./words";

/** One render: its progress, its problem, or its result. */
export function RenderCard({
  render,
  projectId,
  heading,
}: {
  render: Render;
  projectId: number;
  heading?: ReactNode;
}) {
  const { act, move, busy, error } = useRender(render.id, projectId);
  const working = AT_WORK.includes(render.state);
  const waiting = working && render.state !== "running";

  const name = `${stemOf(render.clip)} in ${render.into}`;
  return (
    <div className="grid min-w-0 grow gap-2">
      <div className="flex flex-wrap items-center justify-end gap-2">
        <div className="grow basis-52">
          {heading}
          {!AT_WORK.includes(render.state) && <Verdict render={render} />}
          {waiting && (
            <p className="num text-soft">
              {render.state === "paused" ? "paused" : "queued"}, {render.done > 0 && `${render.done} of `}
              {render.total} frames
            </p>
          )}
        </div>
        {render.state === "queued" && (
          <Menu
            opener="Queue position"
            items={[
              ["First", () => move("first")],
              ["Earlier", () => move("earlier")],
              ["Later", () => move("later")],
              ["Last", () => move("last")],
            ]}
          />
        )}
        {render.state === "done" && !render.cleared && (
          <a
            className="rounded border border-rule bg-paper px-3 py-1 font-semibold hover:border-soft"
            aria-label={`Download ${name}`}
            href={`/api/renders/${render.id}/file?download=true`}
          >
            Download
          </a>
        )}
        {["failed", "cancelled"].includes(render.state) && (
          <Button of={name} disabled={busy} onClick={() => act("retry")}>
            Try again
          </Button>
        )}
        {render.cleared && (
          <Button of={name} disabled={busy} onClick={() => act("retry")}>
            Render again
          </Button>
        )}
        {render.state === "paused" ? (
          <Button of={name} disabled={busy} onClick={() => act("resume")}>
            Resume
          </Button>
        ) : (
          working && (
            <Button of={name} disabled={busy} onClick={() => act("pause")}>
              Pause
            </Button>
          )
        )}
        {working ? (
          <Button of={name} disabled={busy} onClick={() => act("cancel")}>
            Cancel
          </Button>
        ) : (
          <Button look="quiet" of={name} disabled={busy} onClick={() => act("remove")}>
            Remove
          </Button>
        )}
      </div>
      {render.state === "running" && <Working render={render} />}
      {render.problem && (
        <p className="border-l-3 border-rust pl-3">
          {render.problem} <span className="text-soft">{render.remedy}</span>
        </p>
      )}
      <ProblemNote error={error} />
    </div>
  );
}

function Working({ render }: { render: Render }) {
  const fraction = render.total ? render.done / render.total : 0;
  return (
    <div>
      <progress className="block h-1 w-full" aria-label="Progress" value={fraction} max={1} />
      <p className="num mt-1 flex flex-wrap justify-between gap-x-4 text-soft">
        <span>
          {render.doing}, {render.done} of {render.total} frames
          {render.parts > 1 && `, ${render.parts_done} of ${render.parts} parts`}
        </span>
        {render.frames_per_second > 0 && (
          <span>
            {render.frames_per_second.toFixed(0)} frames/s, {remaining(render.seconds_left)}
          </span>
        )}
      </p>
    </div>
  );
}

/** The state of a render in a word or two, with what the inspection found. */
function Verdict({ render }: { render: Render }) {
  if (render.state !== "done") return <p className="num text-soft">{render.state}</p>;
  const right = render.report?.right;
  return (
    <p className={`num ${right ? "text-moss" : "text-rust"}`}>
      {right ? "check passed" : "check failed"},{" "}
      {render.cleared
        ? `file deleted by the keep setting on ${new Date(render.cleared).toLocaleDateString()}`
        : megabytes(render.size)}
      <span className="block text-soft">{render.file}</span>
    </p>
  );
}
