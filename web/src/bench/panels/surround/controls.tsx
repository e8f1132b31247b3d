import type { Control, Kind, Surround } from "../../../api/client";
import { ChoiceRow } from "../../../ui/choice-row";
import { Fold } from "../../../ui/fold";
import { WordsRow } from "../../../ui/words-row";
import { ControlRow } from "../control-row";
import { MaterialRow, type Named } from "./material-row";

type Values = Record<string, unknown>;

type Props = {
  controls: Control[];
  values: Values;
  /** Every kind of surround, for controls that hold one. */
  kinds: Kind[];
  /** The clip's own colours, and for which controls they are offered. */
  suggested?: string[];
  onChange: (name: string, value: unknown) => void;
  onCommit: (name: string, value: unknown, label: string) => void;
};

/** Colours for which the clip's own are offered. */
export const OF_THE_CLIP = ["colour", "first", "second", "third", "last", "plate_colour"];
const NAMED = ["picture", "clip", "logo", "captions"];

/** Controls as the server lists them: numbers, choices, texts, files, and nested surrounds. */
export function Controls(props: Props) {
  const { controls, values, kinds, suggested, onChange, onCommit } = props;
  return controls.map((control) => {
    const { name, label, unit } = control;
    const value = values[name];
    const commit = (next: unknown) => onCommit(name, next, label);
    if (unit === "surround") {
      return (
        <Inner
          key={name}
          {...{ label, kinds, suggested }}
          value={value as Surround}
          onChange={(next) => onChange(name, next)}
          onCommit={(next, said) => onCommit(name, next, said)}
        />
      );
    }
    if (unit === "text") {
      return (
        <WordsRow
          key={name}
          label={label}
          value={String(value)}
          onChange={(next) => onChange(name, next)}
          onCommit={commit}
        />
      );
    }
    if (NAMED.includes(unit)) {
      return (
        <MaterialRow key={name} label={label} what={unit as Named} value={String(value)} onCommit={commit} />
      );
    }
    return (
      <ControlRow
        key={name}
        control={control}
        suggested={OF_THE_CLIP.includes(name) ? suggested : undefined}
        value={value}
        onChange={(next) => onChange(name, next)}
        onCommit={commit}
      />
    );
  });
}

type InnerProps = Omit<Props, "controls" | "values" | "onChange" | "onCommit"> & {
  label: string;
  value: Surround;
  onChange: (value: Surround) => void;
  onCommit: (value: Surround, label: string) => void;
};

/** A surround that is part of another: its kind, and its own controls, folded. */
function Inner({ label, value, kinds, onChange, onCommit, ...rest }: InnerProps) {
  const grounds = kinds.filter(({ ground }) => ground);
  const current = grounds.find(({ kind }) => kind === value.kind);
  const withValue = (name: string, next: unknown) => ({ ...value, [name]: next }) as Surround;
  return (
    <Fold title={label} state={current?.title.toLowerCase()}>
      <ChoiceRow
        label="Kind"
        value={value.kind}
        choices={grounds.map(({ kind, title }) => ({ value: kind, title }))}
        onChange={(kind) => {
          const chosen = grounds.find((one) => one.kind === kind);
          if (chosen) onCommit(defaults(chosen), `${label}: ${chosen.title}`);
        }}
      />
      <Controls
        {...rest}
        kinds={kinds}
        controls={current?.controls ?? []}
        values={value as Values}
        onChange={(name, next) => onChange(withValue(name, next))}
        onCommit={(name, next, said) => onCommit(withValue(name, next), said)}
      />
    </Fold>
  );
}

/** What controls are set to when nothing was set. */
export function initialValues(controls: Control[]): Values {
  return Object.fromEntries(
    controls.map(({ name, unit, default: value }) => [
      name,
      unit === "colour or none" ? value || null : value,
    ]),
  );
}

/** A surround of a kind as it is when nothing was set. */
export function defaults(kind: Kind): Surround {
  return { ...initialValues(kind.controls), kind: kind.kind } as Surround;
}
