import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api } from "../api/client";
import { refreshFramings } from "../api/queries";
import { useSend } from "../api/use-send";
import { footageAmong } from "../intake/dropped";
import { useUploads } from "../intake/uploads";
import { Button } from "../ui/button";
import { useKeys } from "../ui/keyboard";
import { Menu, OPENER } from "../ui/menu";
import { ProblemNote } from "../ui/problem-note";
import { useFilePicker } from "../ui/use-file-picker";
import { FolderDialog } from "./folder-dialog";

/** Footage from this computer, or from folders on the server where there are any. */
export function AddFootage({ projectId, folders }: { projectId: number; folders: boolean }) {
  const [browsing, setBrowsing] = useState(false);
  const add = useUploads((store) => store.addAll);
  const client = useQueryClient();
  const link = useSend(
    (path: string) =>
      api.POST("/api/projects/{project_id}/linked", {
        params: { path: { project_id: projectId } },
        body: { path },
      }),
    { refresh: refreshFramings },
  );
  const addAll = (files: File[]) => add(projectId, files, () => refreshFramings(client));
  const clips = useFilePicker({ label: "Clips to add", multiple: true, onFiles: addAll });
  const folder = useFilePicker({
    label: "Folder to add",
    folder: true,
    onFiles: (files) => addAll(footageAmong(files)),
  });
  useKeys([{ keys: "a", does: "Add clips", act: clips.pick }]);
  return (
    <>
      <ProblemNote error={link.error} onClose={link.reset} />
      {clips.field}
      {folder.field}
      <div className="flex gap-px">
        <Button className="rounded-r-none" onClick={clips.pick}>
          Add clips
        </Button>
        <Menu
          opener="▾"
          look={`${OPENER} rounded-l-none border-l-0 px-2`}
          label="Other ways to add clips"
          items={[
            ["A folder from this computer", folder.pick],
            ...(folders ? ([["From the server", () => setBrowsing(true)]] as const) : []),
          ]}
        />
      </div>
      {browsing && (
        <FolderDialog
          title="Clips on the server"
          onClose={() => setBrowsing(false)}
          onChoose={(path) => {
            setBrowsing(false);
            link.mutate(path);
          }}
        />
      )}
    </>
  );
}
