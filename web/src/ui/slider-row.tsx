import { Slider } from "radix-ui";
import { useRef } from "react";
import { NumberField } from "./number-field";
import { useEscape } from "./use-escape";

type Props = {
  label: string;
  value: number;
  unit: string;
  low: number;
  high: number;
  step: number;
  initial: number;
  /** Further ends for typing, where the slider covers only the usual range. */
  typedLow?: number;
  typedHigh?: number;
  onChange: (value: number) => void;
  onCommit: (value: number) => void;
};

/** A label, a slider and its number. Moving draws; letting go saves, Escape takes it back. Double-click on the label goes back. */
export function SliderRow(props: Props) {
  const { label, value, unit, low, high, step, initial, onChange, onCommit } = props;
  const held = useRef<{ from: number; off: boolean } | null>(null);
  useEscape(() => {
    if (!held.current || held.current.off) return false;
    held.current.off = true;
    onChange(held.current.from);
    return true;
  });
  return (
    <div className="grid grid-cols-[84px_1fr_88px] items-center gap-2.5">
      {/* biome-ignore lint/a11y/noStaticElementInteractions: the number field beside it does the same by key */}
      <span title="Double-click to reset" onDoubleClick={() => onCommit(initial)}>
        {label}
      </span>
      <Slider.Root
        className="relative flex h-6 pointer-coarse:h-11 touch-none items-center"
        min={low}
        max={high}
        step={step}
        value={[Math.min(high, Math.max(low, value))]}
        onPointerDown={() => {
          held.current = { from: value, off: false };
        }}
        onValueChange={([next]) => next !== undefined && !held.current?.off && onChange(next)}
        onValueCommit={([next]) => {
          const off = held.current?.off;
          held.current = null;
          if (next !== undefined && !off) onCommit(next);
        }}
      >
        <Slider.Track className="track relative h-0.5 grow bg-edge">
          <Slider.Range className="absolute h-full bg-ink" />
        </Slider.Track>
        <Slider.Thumb
          aria-label={label}
          aria-valuetext={`${value} ${unit}`}
          className="grip relative block h-4 w-2 rounded-xs bg-ink"
        />
      </Slider.Root>
      <NumberField
        label={`${label}, ${unit}`}
        value={value}
        unit={unit}
        low={props.typedLow ?? low}
        high={props.typedHigh ?? high}
        step={step}
        onCommit={onCommit}
      />
    </div>
  );
}
