import { useQuery } from "@tanstack/react-query";
import type { FrameRow, Settings } from "../api/client";
import { catalogueQuery } from "../api/queries";
import { ChoiceRow } from "../ui/choice-row";
import { SettingRows } from "./setting-rows";

type Props = { row: FrameRow; set: (fields: Partial<Settings>) => void };

const OWN = "own:";

/** How files of a frame are written: by a preset, and by settings that the kind of file allows. */
export function FileSettings({ row: { settings }, set }: Props) {
  const { data: catalogue } = useQuery(catalogueQuery);
  const file = catalogue?.files.find(({ kind }) => kind === settings.kind);
  const { shipped, own } = usePreset(settings);
  if (!catalogue || !file) return null;
  const presets = [
    ...catalogue.settings.map((one) => ({ value: one.name, title: one.name, settings: one })),
    ...catalogue.own_settings.map((one) => ({
      value: `${OWN}${one.id}`,
      title: one.settings.name,
      settings: one.settings,
    })),
  ];
  return (
    <>
      <ChoiceRow
        label="Settings"
        value={own ? `${OWN}${own.id}` : (shipped?.name ?? "")}
        choices={[...(own || shipped ? [] : [{ value: "", title: "Custom" }]), ...presets]}
        onChange={(value) => {
          const chosen = presets.find((preset) => preset.value === value);
          if (chosen) set(chosen.settings);
        }}
      />
      <SettingRows settings={file.settings} values={settings} set={set} />
    </>
  );
}

/** The preset, shipped or saved by the visitor, that settings are the same as. */
export function usePreset(settings: Settings) {
  const { data: catalogue } = useQuery(catalogueQuery);
  return {
    shipped: catalogue?.settings.find((one) => writesSame(one, settings)),
    own: catalogue?.own_settings.find((one) => writesSame(one.settings, settings)),
  };
}

/** Whether two settings write the same file; their names do not count. */
function writesSame(one: Settings, other: Settings): boolean {
  return JSON.stringify({ ...one, name: "" }) === JSON.stringify({ ...other, name: "" });
}
