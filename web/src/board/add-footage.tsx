import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { api, unwrap } from "../api/client";
import { refreshFramings } from "../api/queries";
import { footageAmong } from "../intake/dropped";
import { useUploads } from "../intake/uploads";
import { Button } from "../ui/button";
import { useKeys } from "../ui/keyboard";
import { Menu, OPENER } from "../ui/menu";
import { ProblemNote } from "../ui/problem-note";
import { FolderDialog } from "./folder-dialog";

/** Footage from this computer, or from folders on the server where there are any. */
export function AddFootage({ projectId, folders }: { projectId: number; folders: boolean }) {
  const picker = useRef<HTMLInputElement>(null);
  const whole = useRef<HTMLInputElement>(null);
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
  useKeys([{ keys: "a", does: "Add clips", act: () => picker.current?.click() }]);
  const addAll = (files: File[]) => add(projectId, files, () => refreshFramings(client));
  return (
    <>
      <ProblemNote error={link.error} onClose={link.reset} />
      <input
        ref={picker}
        type="file"
        multiple
        hidden
        aria-label="Clips to add"
        onChange={(event) => {
          addAll([...(event.target.files ?? [])]);
          event.target.value = "";
        }}
      />
      <input
        ref={whole}
        type="file"
        // React has no type for it, though every browser knows it.
        {...{ webkitdirectory: "" }}
        hidden
        aria-label="Folder to add"
        onChange={(event) => {
          addAll(footageAmong([...(event.target.files ?? [])]));
          event.target.value = "";
        }}
      />
      <div className="flex gap-px">
        <Button className="rounded-r-none" onClick={() => picker.current?.click()}>
          Add clips
        </Button>
        <Menu
          opener="▾"
          look={`${OPENER} rounded-l-none border-l-0 px-2`}
          label="Other ways to add clips"
          items={[
            ["A folder from this computer", () => whole.current?.click()],
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
