import { useEffect, useRef, useState } from "react";

type Props = {
  label: string;
  value: string;
  onChange: (value: string) => void;
  onCommit: (value: string) => void;
};

/** A label and words to type. Typing draws; leaving the field saves. */
export function WordsRow({ label, value, onChange, onCommit }: Props) {
  const [typed, setTyped] = useState(value);
  const saved = useRef(value);
  const typing = useRef(false);
  useEffect(() => {
    if (typing.current) return;
    saved.current = value;
    setTyped(value);
  }, [value]);

  function settle() {
    typing.current = false;
    if (typed !== saved.current) onCommit(typed);
    saved.current = typed;
  }

  return (
    <label className="grid grid-cols-[84px_1fr] items-start gap-2.5">
      <span className="pt-1">{label}</span>
      <textarea
        aria-label={label}
        rows={Math.min(5, Math.max(1, typed.split("\n").length, Math.ceil(typed.length / 26)))}
        className="min-w-0 resize-none rounded border border-edge bg-sheet px-2 py-1"
        value={typed}
        onFocus={() => {
          typing.current = true;
        }}
        onChange={({ target }) => {
          setTyped(target.value);
          onChange(target.value);
        }}
        onBlur={settle}
        onKeyDown={(event) => event.stopPropagation()}
      />
    </label>
  );
}
