import { Slider } from "radix-ui";
import { NumberField } from "./number-field";

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

/** A label, a slider and its number. Moving draws; letting go saves. Double-click on the label goes back. */
export function SliderRow(props: Props) {
  const { label, value, unit, low, high, step, initial, onChange, onCommit } = props;
  return (
    <div className="grid grid-cols-[84px_1fr_88px] items-center gap-2.5">
      {/* biome-ignore lint/a11y/noStaticElementInteractions: the number field beside it does the same by key */}
      <span title="Double-click to go back to the default" onDoubleClick={() => onCommit(initial)}>
        {label}
      </span>
      <Slider.Root
        className="relative flex h-6 touch-none items-center"
        min={low}
        max={high}
        step={step}
        value={[Math.min(high, Math.max(low, value))]}
        onValueChange={([next]) => next !== undefined && onChange(next)}
        onValueCommit={([next]) => next !== undefined && onCommit(next)}
      >
        <Slider.Track className="relative h-0.5 grow bg-rule">
          <Slider.Range className="absolute h-full bg-ink" />
        </Slider.Track>
        <Slider.Thumb aria-label={label} className="block h-4 w-2 rounded-xs bg-ink" />
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
