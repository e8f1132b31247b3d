import { useEffect, useRef, useState } from "react";
import { Button } from "./button";

type Props = {
  label: string;
  /** Colours to choose from with one click. */
  suggested?: string[];
  value: string;
  initial: string;
  onChange: (value: string) => void;
  onCommit: (value: string) => void;
};

const COLOUR = /^#?[0-9a-f]{6}$/i;

/** A colour: picked by eye, or typed as six hexadecimal digits. */
export function ColourRow({ label, value, initial, suggested, onChange, onCommit }: Props) {
  const [typed, setTyped] = useState(value);
  const before = useRef(value);
  useEffect(() => setTyped(value), [value]);

  function settle() {
    if (!COLOUR.test(typed)) setTyped(value);
    else if (typed !== value) onCommit(`#${typed.replace("#", "").toLowerCase()}`);
  }

  return (
    <div className="grid gap-1">
      <div className="grid grid-cols-[84px_1fr_88px] items-center gap-2.5">
        {/* biome-ignore lint/a11y/noStaticElementInteractions: the fields beside it do the same by key */}
        <span title="Double-click to reset" onDoubleClick={() => onCommit(initial)}>
          {label}
        </span>
        <input
          type="color"
          aria-label={label}
          className="h-7 w-full cursor-pointer rounded border border-edge bg-sheet p-0.5"
          value={COLOUR.test(typed) ? `#${typed.replace("#", "")}` : value}
          onFocus={() => {
            before.current = value;
          }}
          onChange={({ target }) => {
            setTyped(target.value);
            onChange(target.value);
          }}
          onBlur={({ target }) => target.value !== before.current && onCommit(target.value)}
        />
        <input
          aria-label={`${label}, hexadecimal`}
          className="num min-w-0 rounded border border-edge bg-sheet px-2 py-1"
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
          onBlur={settle}
          onKeyDown={(event) => {
            event.stopPropagation();
            if (event.key === "Enter") settle();
          }}
        />
      </div>
      {suggested && <Suggested {...{ label, onCommit }} colours={suggested} />}
    </div>
  );
}

type SuggestedProps = { label: string; colours: string[]; onCommit: (value: string) => void };

const Suggested = ({ label, colours, onCommit }: SuggestedProps) => (
  <div className="flex flex-wrap items-center gap-1.5 pl-[94px]">
    {colours.map((colour) => (
      <button
        key={colour}
        type="button"
        title={`${colour}, from the clip`}
        aria-label={`${label} ${colour}, from the clip`}
        className="h-5 w-7 rounded border border-rule"
        style={{ background: colour }}
        onClick={() => onCommit(colour)}
      />
    ))}
    {"EyeDropper" in window && (
      <Button look="link" onClick={() => pick().then(onCommit, () => undefined)}>
        take from the screen
      </Button>
    )}
  </div>
);

type Dropper = { open: () => Promise<{ sRGBHex: string }> };

/** A colour taken from anywhere on the screen, such as the picture in the viewer. */
async function pick(): Promise<string> {
  const Dropper = (window as unknown as { EyeDropper: new () => Dropper }).EyeDropper;
  return (await new Dropper().open()).sRGBHex;
}
