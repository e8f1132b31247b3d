import { useMutation, useQueryClient } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { answered, api, type Render } from "../api/client";
import { AT_WORK } from "../api/queries";
import { Button } from "../ui/button";
import { ProblemNote } from "../ui/problem-note";
import { megabytes, remaining } from "./words";

/** One render: how far it is, what went wrong, or what came of it. */
export function RenderCard({
  render,
  projectId,
  heading,
}: {
  render: Render;
  projectId: number;
  heading?: ReactNode;
}) {
  const path = { params: { path: { render_id: render.id } } };
  const client = useQueryClient();
  const refresh = () => client.invalidateQueries({ queryKey: ["renders", projectId] });
  const cancel = useMutation({
    mutationFn: () => answered(api.POST("/api/renders/{render_id}/cancel", path)),
    onSettled: refresh,
  });
  const retry = useMutation({
    mutationFn: () => answered(api.POST("/api/renders/{render_id}/retry", path)),
    onSettled: refresh,
  });
  const remove = useMutation({
    mutationFn: () => answered(api.DELETE("/api/renders/{render_id}", path)),
    onSettled: refresh,
  });
  const working = AT_WORK.includes(render.state);

  return (
    <div className="grid gap-2">
      {heading}
      <div className="flex items-center gap-3">
        <div className="grow">
          <Verdict render={render} />
        </div>
        {render.state === "done" && (
          <a
            className="rounded border border-rule bg-paper px-3 py-1 font-semibold hover:border-soft"
            href={`/api/renders/${render.id}/file?download=true`}
          >
            Download
          </a>
        )}
        {["failed", "cancelled"].includes(render.state) && (
          <Button disabled={retry.isPending} onClick={() => retry.mutate()}>
            Try again
          </Button>
        )}
        {working ? (
          <Button disabled={cancel.isPending} onClick={() => cancel.mutate()}>
            Cancel
          </Button>
        ) : (
          <Button look="quiet" onClick={() => remove.mutate()}>
            Remove
          </Button>
        )}
      </div>
      {working && <Working render={render} />}
      {render.problem && (
        <p className="border-l-3 border-rust pl-3">
          {render.problem} <span className="text-soft">{render.remedy}</span>
        </p>
      )}
      <ProblemNote error={cancel.error ?? retry.error ?? remove.error} />
    </div>
  );
}

function Working({ render }: { render: Render }) {
  const fraction = render.total ? render.done / render.total : 0;
  return (
    <div>
      <progress className="block h-1 w-full" aria-label="Progress" value={fraction} max={1} />
      <p className="num mt-1 flex justify-between text-soft">
        <span>
          {render.doing}, {render.done} of {render.total} frames
        </span>
        {render.state === "running" && render.frames_per_second > 0 && (
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
  if (render.state !== "done") return <span className="num text-soft">{render.state}</span>;
  const right = render.report?.right;
  return (
    <span className={`num ${right ? "text-moss" : "text-rust"}`}>
      {right ? "checked, right" : "checked, wrong"}, {megabytes(render.size)}
      <span className="block text-soft">{render.file}</span>
    </span>
  );
}
