import { useEffect, useState } from "react";

type Props = {
  label: string;
  value: string;
  initial: string;
  onChange: (value: string) => void;
  onCommit: (value: string) => void;
};

const COLOUR = /^#?[0-9a-f]{6}$/i;

/** A colour: picked by eye, or typed as six hexadecimal digits. */
export function ColourRow({ label, value, initial, onChange, onCommit }: Props) {
  const [typed, setTyped] = useState(value);
  useEffect(() => setTyped(value), [value]);

  function settle() {
    if (!COLOUR.test(typed)) setTyped(value);
    else if (typed !== value) onCommit(`#${typed.replace("#", "").toLowerCase()}`);
  }

  return (
    <div className="grid grid-cols-[84px_1fr_88px] items-center gap-2.5">
      {/* biome-ignore lint/a11y/noStaticElementInteractions: the fields beside it do the same by key */}
      <span title="Double-click to go back to the default" onDoubleClick={() => onCommit(initial)}>
        {label}
      </span>
      <input
        type="color"
        aria-label={label}
        className="h-7 w-full cursor-pointer rounded border border-rule bg-sheet p-0.5"
        value={value}
        onChange={(event) => onChange(event.target.value)}
        onBlur={(event) => event.target.value !== initial && onCommit(event.target.value)}
      />
      <input
        aria-label={`${label}, hexadecimal`}
        className="num min-w-0 rounded border border-rule bg-sheet px-2 py-1"
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={settle}
        onKeyDown={(event) => {
          event.stopPropagation();
          if (event.key === "Enter") settle();
        }}
      />
    </div>
  );
}
