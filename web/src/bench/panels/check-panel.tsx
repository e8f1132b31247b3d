import type { Render } from "../../api/client";
import { AT_WORK } from "../../api/queries";
import { RenderCard } from "../../renders/render-card";
import { Button } from "../../ui/button";

type Props = { renders: Render[]; projectId: number; ordering: boolean; onOrder: () => void };

/** The renders of this framing, and the measured report on the newest finished one. */
export function CheckPanel({ renders, projectId, ordering, onOrder }: Props) {
  const newest = renders[0];
  const stale = newest?.state === "done" && !newest.current;
  return (
    <section aria-label="Check" className="grid gap-3">
      <h2 className="font-semibold">Check</h2>
      {!newest && <p className="text-soft">This framing has not been rendered yet.</p>}
      {stale && (
        <p className="border-l-3 border-rust pl-3">The framing has changed since this file was made.</p>
      )}
      {(!newest || stale || !["done", ...AT_WORK].includes(newest.state)) && (
        <Button look="main" className="justify-self-start" disabled={ordering} onClick={onOrder}>
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

const SIGNS: Record<string, string> = { right: "text-moss", wrong: "text-rust", measured: "text-soft" };

function Report({ report }: { report: NonNullable<Render["report"]> }) {
  return (
    <table className="w-full border-collapse" aria-label="Inspection">
      <thead>
        <tr className="border-b border-rule text-left text-soft">
          <th className="py-1 font-normal">asked, found</th>
          <th className="py-1 text-right font-normal">verdict</th>
        </tr>
      </thead>
      <tbody>
        {report.lines.map((line, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: lines stay in their order
          <tr key={index} className="border-b border-rule align-top">
            <td className="py-1 pr-2">
              {line.name}
              <span className="num block text-soft">
                {line.asked === line.found || !line.asked ? line.found : `${line.asked}, found ${line.found}`}
              </span>
              {line.remedy && <span className="block text-rust">{line.remedy}</span>}
            </td>
            <td className={`num py-1 text-right ${SIGNS[line.verdict]}`}>{line.verdict}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
