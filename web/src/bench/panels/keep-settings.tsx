import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Settings, unwrap } from "../../api/client";
import { catalogueQuery } from "../../api/queries";
import { useCalls } from "../../api/use-send";
import { Button } from "../../ui/button";
import { ProblemNote } from "../../ui/problem-note";
import { useFilePicker } from "../../ui/use-file-picker";

type Props = { settings: Settings; ownId?: number };

/** Saving settings under a name for all projects, exporting them as a file, and importing such a file. */
export function KeepSettings({ settings, ownId }: Props) {
  const [name, setName] = useState("");
  const client = useQueryClient();
  const { mutate, error } = useCalls({ refresh: catalogueQuery.queryKey });
  const take = useMutation({
    mutationFn: async (chosen: File) =>
      unwrap(api.POST("/api/settings", { body: JSON.parse(await chosen.text()) as Settings })),
    onSettled: () => client.invalidateQueries({ queryKey: catalogueQuery.queryKey }),
  });
  const importing = useFilePicker({
    label: "Settings to import",
    accept: ".json,application/json",
    onFiles: ([file]) => file && take.mutate(file),
  });
  return (
    <>
      <form
        className="grid grid-cols-[1fr_auto] gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          const body = { ...settings, name: name.trim() };
          if (body.name) mutate(() => api.POST("/api/settings", { body }), { onSuccess: () => setName("") });
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
        <Button look="link" onClick={importing.pick}>
          Import settings
        </Button>
        {ownId !== undefined && (
          <>
            <a className="text-ochre underline" href={`/api/settings/${ownId}/file`}>
              Export settings
            </a>
            <Button
              look="link"
              onClick={() =>
                mutate(() => api.DELETE("/api/settings/{own_id}", { params: { path: { own_id: ownId } } }))
              }
            >
              Delete settings
            </Button>
          </>
        )}
      </p>
      {importing.field}
      <ProblemNote error={error ?? take.error} />
    </>
  );
}
