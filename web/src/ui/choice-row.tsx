type Choice = { value: string; title: string };

type Props = {
  label: string;
  value: string;
  choices: readonly Choice[];
  onChange: (value: string) => void;
  hint?: string;
};

/** A label and a list to choose one thing from. */
export function ChoiceRow({ label, value, choices, onChange, hint }: Props) {
  return (
    <label className="grid grid-cols-[84px_1fr] items-center gap-2.5" title={hint}>
      <span>{label}</span>
      <select
        aria-label={label}
        className="min-w-0 rounded border border-edge bg-sheet px-2 py-1"
        value={value}
        onChange={({ target }) => onChange(target.value)}
      >
        {choices.map((choice) => (
          <option key={choice.value} value={choice.value}>
            {choice.title}
          </option>
        ))}
      </select>
    </label>
  );
}
