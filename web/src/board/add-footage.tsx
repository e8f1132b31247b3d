import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { api, unwrap } from "../api/client";
import { refreshFramings } from "../api/queries";
import { useUploads } from "../intake/uploads";
import { Button } from "../ui/button";
import { ProblemNote } from "../ui/problem-note";
import { FolderDialog } from "./folder-dialog";

/** Footage from this computer, or from folders on the server where there are any. */
export function AddFootage({ projectId, folders }: { projectId: number; folders: boolean }) {
  const picker = useRef<HTMLInputElement>(null);
  const [browsing, setBrowsing] = useState(false);
  const add = useUploads((store) => store.addAll);
  const client = useQueryClient();
  const link = useMutation({
    mutationFn: (path: string) =>
      unwrap(
        api.POST("/api/projects/{project_id}/linked", {
          params: { path: { project_id: projectId } },
          body: { path },
        }),
      ),
    onSettled: () => refreshFramings(client),
  });
  return (
    <>
      <ProblemNote error={link.error} onClose={link.reset} />
      <input
        ref={picker}
        type="file"
        multiple
        hidden
        aria-label="Footage to add"
        onChange={(event) => {
          add(projectId, [...(event.target.files ?? [])], () => refreshFramings(client));
          event.target.value = "";
        }}
      />
      <Button onClick={() => picker.current?.click()}>Add footage</Button>
      {folders && <Button onClick={() => setBrowsing(true)}>From the server</Button>}
      {browsing && (
        <FolderDialog
          title="Footage on the server"
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
