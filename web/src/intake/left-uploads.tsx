import { useQuery } from "@tanstack/react-query";
import { api, unwrap } from "../api/client";
import { useSend } from "../api/use-send";
import { Button } from "../ui/button";
import { useUploads } from "./uploads";

/** Files that did not arrive whole, since a page was closed or a line broke for long; chosen again they go on. */
export function LeftUploads({ projectId }: { projectId: number }) {
  const params = { path: { project_id: projectId } };
  const going = useUploads(({ uploads }) => uploads);
  const queryKey = ["uploads", projectId];
  const { data } = useQuery({
    // Uploads that arrived meanwhile are complete.
    queryKey: [...queryKey, going.length === 0],
    queryFn: () => unwrap(api.GET("/api/projects/{project_id}/uploads", { params })),
    staleTime: 0,
  });
  const forget = useSend(
    (token: string) => api.DELETE("/api/uploads/{token}", { params: { path: { token } } }),
    { refresh: queryKey },
  );
  const left = data?.filter(({ name }) => !going.some(({ files }) => files.includes(name))) ?? [];
  if (left.length === 0) return null;
  return (
    <ul aria-label="Interrupted uploads" className="mb-4 grid gap-2">
      {left.map(({ token, name, received, size }) => (
        <li key={token} className="flex items-center gap-4 rounded border border-rule bg-sheet px-3 py-2">
          <span className="w-64 truncate font-semibold">{name}</span>
          <span className="grow text-soft">
            <span className="num">{Math.floor((100 * received) / Math.max(1, size))}%</span> of it is here.
            Add the same file again to resume.
          </span>
          <Button look="quiet" onClick={() => forget.mutate(token)}>
            Discard
          </Button>
        </li>
      ))}
    </ul>
  );
}
