import type { Schemas } from "../api/client";
import { Button } from "../ui/button";
import { ChoiceRow } from "../ui/choice-row";
import { ColourRow } from "../ui/colour-row";
import { toNumber } from "../ui/exact";
import { Fold } from "../ui/fold";
import { NumberField } from "../ui/number-field";
import { Row } from "../ui/row";
import { TickRow } from "../ui/tick-row";
import { WordsRow } from "../ui/words-row";

type Setting = Schemas["Setting"];
type Values = Record<string, unknown>;
type Set = (fields: Values) => void;
type Props = { settings: readonly Setting[]; values: object; set: (fields: never) => void };

/** The text of a value in a select or a field; empty for none. */
const asText = (value: unknown) => String(value ?? "");

/** Settings of a clip, a frame or a file, drawn as the server describes them. */
export function SettingRows({ settings, values, set }: Props) {
  return settings
    .filter((setting) => isShown(setting, values as Values))
    .map((setting) => (
      <SettingRow
        key={`${setting.name} ${setting.label}`}
        setting={setting}
        value={(values as Values)[setting.name] ?? null}
        set={set as Set}
      />
    ));
}

/** Groups of settings, each in a fold with its notes. */
export function SettingGroups({
  groups,
  ...props
}: Omit<Props, "settings"> & { groups: Schemas["SettingGroup"][] }) {
  return groups.map(({ title, state, open, notes, settings }) => (
    <Fold key={title} title={title} state={state} open={open}>
      {notes.length > 0 && <p className="text-soft">{notes.join(" ")}</p>}
      <SettingRows {...props} settings={settings} />
    </Fold>
  ));
}

function isShown({ only_if, unless }: Setting, values: Values): boolean {
  const has = ([field, allowed]: [string, unknown[]]) => allowed.includes(values[field] ?? null);
  return Object.entries(only_if).every(has) && !Object.entries(unless).some(has);
}

function SettingRow({ setting, value, set }: { setting: Setting; value: unknown; set: Set }) {
  const { name, label, hint, unit, options } = setting;
  const [first, second] = options;
  const commit = (next: unknown) => set({ [name]: next });
  if (unit === "choice") return <OptionRow {...{ setting, value, commit }} />;
  if (unit === "tick")
    return (
      <TickRow ticked={value !== first?.value} onChange={(on) => commit(on ? second?.value : first?.value)}>
        {label}
      </TickRow>
    );
  if (unit === "button")
    return (
      <Button className="justify-self-start" onClick={() => commit(first?.value)}>
        {label}
      </Button>
    );
  if (unit === "colour")
    return (
      <ColourRow
        {...{ label, value: asText(value), initial: asText(first?.value) }}
        onChange={() => undefined}
        onCommit={commit}
      />
    );
  if (unit === "text")
    return (
      <>
        <WordsRow
          label={label}
          value={value === first?.value ? "" : String(value)}
          onChange={() => undefined}
          onCommit={(words) => (words.trim() || first) && commit(words.trim() || first?.value)}
        />
        {hint && <p className="text-soft">{hint}</p>}
      </>
    );
  return (
    <Row label={label}>
      <NumberField
        label={`${label}, ${unit}${hint && `; ${hint}`}`}
        {...{ unit, low: setting.low, high: setting.high, step: setting.step, decimals: setting.decimals }}
        value={value === null ? setting.initial : toNumber(String(value))}
        onCommit={commit}
      />
    </Row>
  );
}

type OptionProps = { setting: Setting; value: unknown; commit: (value: unknown) => void };

/** A choice; a value that is not offered is the first one, or, where there can be others, shown as it is. */
function OptionRow({ setting: { label, hint, options, others }, value, commit }: OptionProps) {
  const known = options.some((option) => option.value === value);
  const offered = known || !others ? options : [...options, { value, title: asText(value) }];
  return (
    <ChoiceRow
      {...{ label, hint }}
      value={asText(known || others ? value : options[0]?.value)}
      choices={offered.map((option) => ({ value: asText(option.value), title: option.title }))}
      onChange={(chosen) => commit(offered.find((option) => asText(option.value) === chosen)?.value)}
    />
  );
}
