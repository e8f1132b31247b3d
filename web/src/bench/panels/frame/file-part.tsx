import { useQuery } from "@tanstack/react-query";
import type { FrameRow, Settings } from "../../../api/client";
import { catalogueQuery, estimateOf } from "../../../api/queries";
import { BarsChoice } from "../../../frames/bars-choice";
import { megabytes } from "../../../rendering/words";
import { ChoiceRow } from "../../../ui/choice-row";
import { Fold } from "../../../ui/fold";
import { ProblemNote } from "../../../ui/problem-note";
import { TickRow } from "../../../ui/tick-row";
import { WordsRow } from "../../../ui/words-row";
import { useBench } from "../../state/use-bench";
import { AmountRows } from "./amount-rows";
import { KeepSettings } from "./keep-settings";
import { LayerRows } from "./layer-rows";
import { SoundRows } from "./sound-rows";

type Props = { row: FrameRow; set: (fields: Partial<Settings>) => void };

const OWN = "own:";
const KEEP = "keep";

/** How files of a frame are written. Only options that the file format allows are offered. */
export function FilePart({ row, set }: Props) {
  const { framing } = useBench("framing");
  const { data: catalogue } = useQuery(catalogueQuery);
  const { settings } = row;
  const file = catalogue?.files.find(({ kind }) => kind === settings.kind);
  if (!catalogue || !file) return null;
  const profile = file.profiles.find(({ name }) => name === settings.profile) ?? file.profiles[0];
  const shipped = catalogue.settings.find((one) => same(one, settings));
  const own = catalogue.own_settings.find((one) => same(one.settings, settings));

  function choose(value: string) {
    const found = value.startsWith(OWN)
      ? catalogue?.own_settings.find(({ id }) => `${OWN}${id}` === value)?.settings
      : catalogue?.settings.find(({ name }) => name === value);
    if (found) set(found);
  }

  return (
    <Fold title="File" state={row.file}>
      <ChoiceRow
        label="Settings"
        value={own ? `${OWN}${own.id}` : (shipped?.name ?? "")}
        choices={[
          ...(own || shipped ? [] : [{ value: "", title: "Custom" }]),
          ...catalogue.settings.map(({ name }) => ({ value: name, title: name })),
          ...catalogue.own_settings.map(({ id, settings: { name } }) => ({
            value: `${OWN}${id}`,
            title: name,
          })),
        ]}
        onChange={choose}
      />
      <ChoiceRow
        label="Format"
        value={settings.kind}
        choices={catalogue.files.map(({ kind, title }) => ({ value: kind, title }))}
        onChange={(kind) => set({ kind: kind as Settings["kind"] })}
      />
      {file.profiles.length > 1 && (
        <ChoiceRow
          label="Profile"
          value={profile?.name ?? ""}
          choices={file.profiles.map(({ name }) => ({ value: name, title: name }))}
          onChange={(name) => set({ profile: name })}
        />
      )}
      {profile && profile.depths.length > 1 && (
        <ChoiceRow
          label="Depth"
          value={String(settings.depth ?? profile.depths[0])}
          choices={profile.depths.map((depth) => ({ value: String(depth), title: `${depth} bits` }))}
          onChange={(depth) => set({ depth: Number(depth) as Settings["depth"] })}
        />
      )}
      <AmountRows file={file} settings={settings} set={set} />
      <SoundRows {...{ file, settings, set }} joinable={framing.joinable_tracks} />
      <TickRow
        ticked={settings.subtitles === "keep"}
        onChange={(keep) => set({ subtitles: keep ? "keep" : "none" })}
      >
        Keep subtitle tracks
      </TickRow>
      <WordsRow
        label="Time code"
        value={settings.timecode === KEEP ? "" : settings.timecode}
        onChange={() => undefined}
        onCommit={(timecode) => set({ timecode: timecode.trim() || KEEP })}
      />
      <p className="text-soft">For example 10:00:00:00, or none. Empty keeps the clip's time code.</p>
      <TickRow
        ticked={settings.damage === "stop"}
        onChange={(stop) => set({ damage: stop ? "stop" : "read_past" })}
      >
        Stop at damage (otherwise hold the last good frame)
      </TickRow>
      <LayerRows {...{ file, settings, set }} />
      <BarsChoice {...{ row, set }} />
      <WordsRow
        label="File name"
        value={settings.filename_template}
        onChange={() => undefined}
        onCommit={(names) => set({ filename_template: names })}
      />
      <p>
        Example: <span className="num">{row.file}</span>.
      </p>
      <Size row={row} />
      <KeepSettings settings={settings} ownId={own?.id} />
    </Fold>
  );
}

/** About how large this clip's file will be: some of its frames are encoded and counted. */
function Size({ row }: { row: FrameRow }) {
  const { framing } = useBench("framing");
  const { data, error } = useQuery(estimateOf(row, framing));
  if (error) return <ProblemNote error={error} />;
  if (data?.problem)
    return (
      <p className="text-soft">
        How large it will be could not be found out: {data.problem} {data.remedy}
      </p>
    );
  return (
    <p className="text-soft">
      {data && data.bytes !== null
        ? `About ${megabytes(data.bytes)} for this clip; ${megabytes(data.free)} are free.`
        : `Encoding some frames to tell how large it will be … ${data?.done_percent ?? 0}%`}
    </p>
  );
}

/** Whether two settings write the same file; their names do not count. */
function same(one: Settings, other: Settings): boolean {
  return JSON.stringify({ ...one, name: "" }) === JSON.stringify({ ...other, name: "" });
}
