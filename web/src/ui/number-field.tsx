import { type KeyboardEvent, useLayoutEffect, useRef, useState } from "react";
import { evaluate } from "./arithmetic";
import { toExact } from "./exact";

type Props = {
  label: string;
  value: number;
  unit: string;
  low: number;
  high: number;
  step: number;
  decimals?: number;
  onCommit: (value: number) => void;
  className?: string;
};

/** A number that takes typing, plain arithmetic, and the arrow keys (with Shift ten steps). */
export function NumberField({
  label,
  value,
  unit,
  low,
  high,
  step,
  decimals = 2,
  onCommit,
  className = "",
}: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  const [refused, setRefused] = useState("");
  const field = useRef<HTMLInputElement>(null);
  // Typed text stays until it is committed, even if the value changes elsewhere.
  const within = (wanted: number) => Math.min(high, Math.max(low, wanted));
  const shown = typed ?? toExact(value, decimals);

  // A new text drops the selection; typing must still replace the whole number.
  // biome-ignore lint/correctness/useExhaustiveDependencies: it follows the text that is shown
  useLayoutEffect(() => {
    if (typed === null && document.activeElement === field.current) field.current?.select();
  }, [shown]);

  function settle() {
    const wanted = typed === null ? null : evaluate(typed);
    setTyped(null);
    const outside = wanted !== null && within(wanted) !== wanted;
    setRefused(outside ? `${toExact(low, decimals)} to ${toExact(high, decimals)} ${unit}` : "");
    if (wanted !== null && within(wanted) !== value) onCommit(within(wanted));
  }

  function onKeyDown(event: KeyboardEvent) {
    event.stopPropagation();
    if (event.key === "Enter") settle();
    if (event.key === "Escape") setTyped(null);
    if (event.key === "ArrowUp" || event.key === "ArrowDown") {
      event.preventDefault();
      const by = (event.key === "ArrowUp" ? step : -step) * (event.shiftKey ? 10 : 1);
      const from = (typed === null ? null : evaluate(typed)) ?? value;
      setTyped(null);
      onCommit(within(Number(toExact(from + by, 6))));
    }
  }

  return (
    <span
      className={`relative flex items-center rounded border border-edge bg-sheet focus-within:border-ochre focus-within:outline-2 focus-within:outline-ochre ${className}`}
    >
      {refused && (
        <span
          role="alert"
          className="num absolute top-full right-0 z-30 mt-1 whitespace-nowrap rounded border border-rust bg-sheet px-2 py-0.5 text-rust"
        >
          {refused}
        </span>
      )}
      <input
        ref={field}
        aria-label={label}
        className="num w-full min-w-0 bg-transparent py-1 pl-2 text-right outline-none"
        value={shown}
        inputMode="decimal"
        onFocus={(event) => event.target.select()}
        onChange={(event) => {
          setTyped(event.target.value);
          setRefused("");
        }}
        onBlur={settle}
        onKeyDown={onKeyDown}
      />
      <span className="num shrink-0 px-1.5 text-soft">{unit}</span>
    </span>
  );
}
