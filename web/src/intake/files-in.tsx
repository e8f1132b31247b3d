import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { matchPath, useLocation, useNavigate } from "react-router";
import { api, unwrap } from "../api/client";
import { refreshFramings } from "../api/queries";
import { ProblemNote } from "../ui/problem-note";
import { stemOf } from "../ui/stem";
import { type Dropped, droppedFiles } from "./dropped";
import { UploadList } from "./upload-list";
import { useUploads } from "./uploads";

/**
 * Files that are let go or pasted anywhere come in: into the project that is open, or, where none is, into a new one.
 * The board lists them itself; elsewhere they are listed at the edge.
 */
export function FilesIn() {
  const { pathname } = useLocation();
  const projectId = Number(matchPath("/projects/:projectId/*", pathname)?.params.projectId ?? Number.NaN);
  const onBoard = matchPath("/projects/:projectId", pathname) !== null;
  const { over, take, error, forget } = useTaking(projectId);
  useCaught(over.set, take);
  const going = useUploads(({ uploads }) => uploads.length > 0);
  return (
    <>
      {over.on && (
        <div className="pointer-events-none fixed inset-2 z-50 flex items-end justify-center rounded border-2 border-ochre border-dashed">
          <p className="mb-6 rounded bg-sheet px-4 py-2 font-semibold shadow-lg">
            {Number.isNaN(projectId) ? "Drop to start a project with these" : "Drop to add to this project"}
          </p>
        </div>
      )}
      {(error !== null || (going && !onBoard)) && (
        <div className="fixed bottom-4 left-4 z-40 max-h-[50vh] w-[36rem] max-w-[calc(100vw-2rem)] overflow-y-auto">
          <ProblemNote error={error} onClose={forget} />
          {!onBoard && <UploadList />}
        </div>
      )}
    </>
  );
}

function useTaking(projectId: number) {
  const [on, set] = useState(false);
  const [error, setError] = useState<unknown>(null);
  const add = useUploads((store) => store.addAll);
  const client = useQueryClient();
  const navigate = useNavigate();

  async function take(dropped: Promise<Dropped>) {
    try {
      const { files, folder } = await dropped;
      if (files.length === 0) return;
      let into = projectId;
      if (Number.isNaN(into)) {
        const name = (folder ?? stemOf(files[0]?.name ?? "")).slice(0, 120) || "New project";
        const start = await unwrap(api.POST("/api/projects", { body: { name } }));
        into = start.id;
        client.invalidateQueries({ queryKey: ["projects"] });
        navigate(`/projects/${into}`);
      }
      add(into, files, () => refreshFramings(client));
    } catch (problem) {
      setError(problem);
    }
  }
  return { over: { on, set }, take, error, forget: () => setError(null) };
}

/** Files dragged over the page and dropped on it; otherwise the browser would open them in place of the page. */
function useCaught(setOver: (over: boolean) => void, take: (dropped: Promise<Dropped>) => void) {
  const latest = useRef({ setOver, take });
  latest.current = { setOver, take };
  useEffect(() => {
    // A file field accepts drops without help.
    const ours = ({ dataTransfer, target }: DragEvent) =>
      dataTransfer?.types.includes("Files") && !(target instanceof HTMLInputElement);
    const over = (event: DragEvent) => {
      if (ours(event)) event.preventDefault();
      latest.current.setOver(!!ours(event));
    };
    const leave = (event: DragEvent) => event.relatedTarget === null && latest.current.setOver(false);
    const drop = (event: DragEvent) => {
      latest.current.setOver(false);
      if (!ours(event) || !event.dataTransfer) return;
      event.preventDefault();
      latest.current.take(droppedFiles(event.dataTransfer));
    };
    const paste = ({ clipboardData }: ClipboardEvent) => {
      if (clipboardData?.types.includes("Files")) latest.current.take(droppedFiles(clipboardData));
    };
    window.addEventListener("dragover", over);
    window.addEventListener("dragleave", leave);
    window.addEventListener("drop", drop);
    window.addEventListener("paste", paste);
    return () => {
      window.removeEventListener("dragover", over);
      window.removeEventListener("dragleave", leave);
      window.removeEventListener("drop", drop);
      window.removeEventListener("paste", paste);
    };
  }, []);
}
