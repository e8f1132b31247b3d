import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { api, type Settings, unwrap } from "../../../api/client";
import { catalogueQuery } from "../../../api/queries";
import { Button } from "../../../ui/button";
import { ProblemNote } from "../../../ui/problem-note";

type Props = { settings: Settings; ownId?: number };

/** Saving settings under a name for all projects; handing them over as a file, and taking such a file in. */
export function KeepSettings({ settings, ownId }: Props) {
  const [name, setName] = useState("");
  const file = useRef<HTMLInputElement>(null);
  const client = useQueryClient();
  const refresh = () => client.invalidateQueries({ queryKey: catalogueQuery.queryKey });
  const save = useMutation({
    mutationFn: (body: Settings) => unwrap(api.POST("/api/settings", { body })),
    onSuccess: () => setName(""),
    onSettled: refresh,
  });
  const take = useMutation({
    mutationFn: async (chosen: File) =>
      unwrap(api.POST("/api/settings", { body: JSON.parse(await chosen.text()) as Settings })),
    onSettled: refresh,
  });
  const remove = useMutation({
    mutationFn: (id: number) =>
      unwrap(api.DELETE("/api/settings/{own_id}", { params: { path: { own_id: id } } })),
    onSettled: refresh,
  });
  const link = "text-ochre underline";
  return (
    <>
      <form
        className="grid grid-cols-[1fr_auto] gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (name.trim()) save.mutate({ ...settings, name: name.trim() });
        }}
      >
        <input
          aria-label="Name of the settings"
          placeholder="Save as"
          className="min-w-0 rounded border border-edge bg-sheet px-2 py-1"
          value={name}
          onChange={({ target }) => setName(target.value)}
        />
        <Button type="submit">Save</Button>
      </form>
      <p className="flex flex-wrap gap-x-4 gap-y-1">
        <button type="button" className={link} onClick={() => file.current?.click()}>
          take in a file of settings
        </button>
        {ownId !== undefined && (
          <>
            <a className={link} href={`/api/settings/${ownId}/file`}>
              hand these over as a file
            </a>
            <button type="button" className={link} onClick={() => remove.mutate(ownId)}>
              take these settings away
            </button>
          </>
        )}
      </p>
      <input
        ref={file}
        type="file"
        accept=".json,application/json"
        aria-label="Settings to import"
        className="hidden"
        onChange={({ target }) => {
          const chosen = target.files?.[0];
          if (chosen) take.mutate(chosen);
          target.value = "";
        }}
      />
      <ProblemNote error={save.error ?? take.error ?? remove.error} />
    </>
  );
}
