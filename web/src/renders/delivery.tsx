import { useQuery } from "@tanstack/react-query";
import { api } from "../api/client";
import { rendersQuery, visitorQuery } from "../api/queries";
import { useSend } from "../api/use-send";
import { failedCheck, newestOf } from "../rendering/rendered";
import { Menu, OPENER } from "../ui/menu";
import { ProblemNote } from "../ui/problem-note";

/** The newest finished file of every framing, together, and the sheet that goes with them. */
export function Delivery({ projectId }: { projectId: number }) {
  const { data: visitor } = useQuery(visitorQuery);
  const write = useSend((path: string) =>
    api.POST("/api/projects/{project_id}/delivery/folder", {
      params: { path: { project_id: projectId } },
      body: { path },
    }),
  );
  const { data: renders } = useQuery(rendersQuery(projectId));
  const failed = [...newestOf(renders ?? []).values()].filter(failedCheck).length;
  const address = `/api/projects/${projectId}/delivery`;
  const link = "text-ochre underline";
  return (
    <div>
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-2">
        <span className="flex gap-2 text-soft">
          <a className={link} href={`${address}/sheet`} target="_blank" rel="noreferrer">
            Delivery sheet
          </a>
          as
          <a className={link} href={`${address}/sheet?form=csv`}>
            CSV
          </a>
          <a className={link} href={`${address}/sheet?form=json`}>
            JSON
          </a>
        </span>
        {visitor && visitor.deliveries.length > 0 && (
          <Menu
            opener={write.isPending ? "Writing …" : "Write to"}
            disabled={write.isPending}
            items={visitor.deliveries.map((folder) => [folder, () => write.mutate(folder)] as const)}
          />
        )}
        <a className={OPENER} href={`${address}/files`}>
          Download all
        </a>
      </div>
      {failed > 0 && (
        <p className="mt-1 text-right text-rust">
          {failed === 1 ? "1 file failed its check and is" : `${failed} files failed their check and are`}{" "}
          left out.{" "}
          <a className={link} href={`${address}/files?failed=true`}>
            Download {failed === 1 ? "it" : "them"} too
          </a>
        </p>
      )}
      {write.data && (
        <p className="mt-1 text-right text-moss">
          {write.data.length} {write.data.length === 1 ? "file" : "files"} written, with their sheet.
        </p>
      )}
      <ProblemNote error={write.error} />
    </div>
  );
}
