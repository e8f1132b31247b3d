import { useQuery } from "@tanstack/react-query";
import type { FrameRow, Settings } from "../../../api/client";
import { catalogueQuery, estimateOf } from "../../../api/queries";
import { BarsChoice } from "../../../frames/bars-choice";
import { SettingRows } from "../../../frames/setting-rows";
import { megabytes } from "../../../rendering/words";
import { Button } from "../../../ui/button";
import { ChoiceRow } from "../../../ui/choice-row";
import { Fold } from "../../../ui/fold";
import { ProblemNote } from "../../../ui/problem-note";
import { useBench } from "../../state/use-bench";
import { KeepSettings } from "./keep-settings";

type Props = { row: FrameRow; set: (fields: Partial<Settings>) => void };

const OWN = "own:";

/** How files of a frame are written. Only options that the file format allows are offered. */
export function FilePart({ row, set }: Props) {
  const { joinable_tracks: joinable } = useBench("framing").framing;
  const { data: catalogue } = useQuery(catalogueQuery);
  const { settings } = row;
  const file = catalogue?.files.find(({ kind }) => kind === settings.kind);
  if (!catalogue || !file) return null;
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
      <SettingRows settings={file.settings} values={settings} set={set} />
      {settings.sound !== "none" && joinable && settings.tracks !== joinable && (
        <Button onClick={() => set({ tracks: joinable })}>Join mono tracks into stereo</Button>
      )}
      <BarsChoice {...{ row, set }} />
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
