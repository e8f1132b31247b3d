import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answered, api, type FrameRow, type Framing, type Settings } from "../../../api/client";
import { catalogueQuery, estimateQuery } from "../../../api/queries";
import { megabytes } from "../../../renders/words";
import { Button } from "../../../ui/button";
import { ChoiceRow } from "../../../ui/choice-row";
import { Fold } from "../../../ui/fold";
import { ProblemNote } from "../../../ui/problem-note";
import { TickRow } from "../../../ui/tick-row";
import { WordsRow } from "../../../ui/words-row";
import { AmountRows } from "./amount-rows";

type Props = { row: FrameRow; framing: Framing; onSet: (settings: Settings) => void };

const OWN = "own:";

/** How files of a frame are written. Only what a kind of file allows is offered. */
export function FilePart({ row, framing, onSet }: Props) {
  const { data: catalogue } = useQuery(catalogueQuery);
  const { settings } = row;
  const file = catalogue?.files.find(({ kind }) => kind === settings.kind);
  if (!catalogue || !file) return null;
  const profile = file.profiles.find(({ name }) => name === settings.profile) ?? file.profiles[0];
  const set = (fields: Partial<Settings>) => onSet({ ...settings, ...fields });
  const shipped = catalogue.settings.find((one) => same(one, settings));
  const own = catalogue.own_settings.find((one) => same(one.settings, settings));
  const active = row.frame.active !== null && row.frame.outside === "bars";

  function choose(value: string) {
    const found = value.startsWith(OWN)
      ? catalogue?.own_settings.find(({ id }) => `${OWN}${id}` === value)?.settings
      : catalogue?.settings.find(({ name }) => name === value);
    if (found) onSet(found);
  }

  return (
    <Fold title="File" state={row.file}>
      <ChoiceRow
        label="Settings"
        value={own ? `${OWN}${own.id}` : (shipped?.name ?? "")}
        choices={[
          ...(own || shipped ? [] : [{ value: "", title: "as set below" }]),
          ...catalogue.settings.map(({ name }) => ({ value: name, title: name })),
          ...catalogue.own_settings.map(({ id, settings: { name } }) => ({
            value: `${OWN}${id}`,
            title: name,
          })),
        ]}
        onChange={choose}
      />
      <ChoiceRow
        label="Kind"
        value={settings.kind}
        choices={catalogue.files.map(({ kind, title }) => ({ value: kind, title }))}
        onChange={(kind) => {
          const next = catalogue.files.find((one) => one.kind === kind);
          if (!next) return;
          const sound = next.sounds.some(({ name }) => name === settings.sound)
            ? settings.sound
            : (next.sounds[0]?.name ?? "none");
          set({ kind: next.kind, profile: "", depth: null, number: null, by: "quality", sound });
        }}
      />
      {file.profiles.length > 1 && (
        <ChoiceRow
          label="Profile"
          value={profile?.name ?? ""}
          choices={file.profiles.map(({ name }) => ({ value: name, title: name }))}
          onChange={(name) => set({ profile: name, depth: null })}
        />
      )}
      {profile && profile.depths.length > 1 && (
        <ChoiceRow
          label="Depth"
          value={String(settings.depth ?? profile.depths[0])}
          choices={profile.depths.map((depth) => ({ value: String(depth), title: `${depth} bits` }))}
          onChange={(depth) => set({ depth: depth === "10" ? 10 : 8 })}
        />
      )}
      <AmountRows file={file} settings={settings} set={set} />
      <ChoiceRow
        label="Sound"
        value={settings.sound}
        choices={file.sounds.map(({ name, title }) => ({ value: name, title }))}
        onChange={(sound) => set({ sound: sound as Settings["sound"] })}
      />
      {settings.sound !== "none" && (
        <TickRow ticked={settings.stereo} onChange={(stereo) => set({ stereo })}>
          Mixed to stereo
        </TickRow>
      )}
      {active && (
        <ChoiceRow
          label="Holds"
          value={settings.bars}
          choices={[
            { value: "whole frame", title: "the whole frame, with its bars" },
            { value: "active picture only", title: "exactly the active picture" },
          ]}
          onChange={(bars) => set({ bars: bars as Settings["bars"] })}
        />
      )}
      <WordsRow
        label="Names"
        value={settings.names}
        onChange={() => undefined}
        onCommit={(names) => set({ names })}
      />
      <p>
        Files of this frame will be <span className="num">{row.file}</span>.
      </p>
      <Size row={row} framing={framing} />
      <Keep settings={settings} ownId={own?.id} />
    </Fold>
  );
}

/** About how large this clip's file will be: some of its frames are encoded and counted. */
function Size({ row, framing }: { row: FrameRow; framing: Framing }) {
  const { data, error } = useQuery(
    estimateQuery(framing.id, `${framing.version} ${JSON.stringify([row.settings, row.frame])}`),
  );
  if (error) return <ProblemNote error={error} />;
  return (
    <p className="text-soft">
      {data
        ? `About ${megabytes(data.bytes)} for this clip; ${megabytes(data.free)} are free.`
        : "Encoding some frames to tell how large it will be …"}
    </p>
  );
}

/** Saving settings under a name, for all projects. */
function Keep({ settings, ownId }: { settings: Settings; ownId?: number }) {
  const [name, setName] = useState("");
  const client = useQueryClient();
  const refresh = () => client.invalidateQueries({ queryKey: catalogueQuery.queryKey });
  const save = useMutation({
    mutationFn: (body: Settings) => answered(api.POST("/api/settings", { body })),
    onSuccess: () => setName(""),
    onSettled: refresh,
  });
  const remove = useMutation({
    mutationFn: (id: number) =>
      answered(api.DELETE("/api/settings/{own_id}", { params: { path: { own_id: id } } })),
    onSettled: refresh,
  });
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
          placeholder="save under a name"
          className="min-w-0 rounded border border-rule bg-sheet px-2 py-1"
          value={name}
          onChange={({ target }) => setName(target.value)}
        />
        <Button type="submit">Save</Button>
      </form>
      {ownId !== undefined && (
        <button
          type="button"
          className="justify-self-start text-ochre underline"
          onClick={() => remove.mutate(ownId)}
        >
          take these settings away
        </button>
      )}
      <ProblemNote error={save.error ?? remove.error} />
    </>
  );
}

/** Whether two settings write the same file; their names do not count. */
function same(one: Settings, other: Settings): boolean {
  return JSON.stringify({ ...one, name: "" }) === JSON.stringify({ ...other, name: "" });
}
