import type { Render } from "../../api/client";
import { AT_WORK } from "../../api/queries";
import { titleOf, useChoices } from "../../api/use-choices";
import { RenderCard } from "../../rendering/render-card";
import { useRendering } from "../../rendering/use-rendering";
import { Button } from "../../ui/button";
import { ProblemNote } from "../../ui/problem-note";
import { useBench } from "../state/use-bench";
import { useRenders } from "../use-renders";

/** The renders of this framing, and the measured report on the newest finished one. */
export function CheckPanel() {
  const { projectId, framingId } = useBench("projectId", "framingId");
  const renders = useRenders();
  const { render, busy, sheet, error } = useRendering(projectId);
  const newest = renders[0];
  const stale = newest?.state === "done" && !newest.current;
  return (
    <section aria-label="Check" className="grid gap-3">
      <h2 className="font-semibold">Check</h2>
      {sheet}
      <ProblemNote error={error} />
      {!newest && <p className="text-soft">This framing has not been rendered yet.</p>}
      {stale && (
        <p className="border-l-3 border-rust pl-3">The framing has changed since this file was made.</p>
      )}
      {(!newest || stale || !["done", ...AT_WORK].includes(newest.state)) && (
        <Button
          look="main"
          className="justify-self-start"
          disabled={busy}
          onClick={() => render([framingId])}
        >
          Render
        </Button>
      )}
      {newest && <RenderCard render={newest} projectId={projectId} />}
      {newest?.report && <Report report={newest.report} />}
      {renders.length > 1 && (
        <details>
          <summary className="cursor-pointer text-soft">Earlier renders, {renders.length - 1}</summary>
          <ul className="mt-2 grid gap-3">
            {renders.slice(1).map((render) => (
              <li key={render.id} className="border-t border-rule pt-2">
                <RenderCard
                  render={render}
                  projectId={projectId}
                  heading={<span className="num">{render.id}</span>}
                />
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}

type Lines = NonNullable<Render["report"]>["lines"];

/** The measurements of the file: failures on top, everything else in groups that open. */
function Report({ report }: { report: NonNullable<Render["report"]> }) {
  const choices = useChoices();
  const failed = report.lines.filter(({ verdict }) => verdict === "wrong");
  return (
    <section aria-label="Inspection" className="grid gap-1">
      {failed.length > 0 && <ReportTable title="Failed" lines={failed} />}
      {choices.report_groups.map(({ value: group, title }) => {
        const lines = report.lines.filter((line) => line.group === group && line.verdict !== "wrong");
        const passes = lines.filter(({ verdict }) => verdict === "right").length;
        if (lines.length === 0) return null;
        return (
          <details key={group} className="border-b border-rule">
            <summary className="flex cursor-pointer items-center gap-2 py-0.5">
              <span aria-hidden="true" className="text-soft">
                ›
              </span>
              <span className="grow font-semibold">{title}</span>
              {passes > 0 && <span className="num text-moss">Pass: {passes}</span>}
              {lines.length > passes && <span className="num text-soft">Info: {lines.length - passes}</span>}
            </summary>
            <ReportTable title={title} lines={lines} />
          </details>
        );
      })}
    </section>
  );
}

const COLOURS = { right: "text-moss", wrong: "text-rust", measured: "text-soft" };

function ReportTable({ title, lines }: { title: string; lines: Lines }) {
  const { verdicts } = useChoices();
  return (
    <table className="w-full border-collapse" aria-label={`Inspection: ${title}`}>
      <thead className="sr-only">
        <tr>
          <th scope="col">Expected, measured</th>
          <th scope="col">Result</th>
        </tr>
      </thead>
      <tbody>
        {lines.map((line, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: lines stay in their order
          <tr key={index} className="border-t border-rule align-top">
            <td className="py-1 pr-2">
              {line.name}
              <span className="num block text-soft">
                {line.asked === line.found || !line.asked
                  ? line.found
                  : `Expected ${line.asked}, measured ${line.found}`}
              </span>
              {line.remedy && <span className="block text-rust">{line.remedy}</span>}
            </td>
            <td className={`num py-1 text-right ${COLOURS[line.verdict]}`}>
              {titleOf(verdicts, line.verdict)}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
