import type { Control } from "../../api/client";
import { ChoiceRow } from "../../ui/choice-row";
import { ColourRow } from "../../ui/colour-row";
import { toExact, toNumber } from "../../ui/exact";
import { SliderRow } from "../../ui/slider-row";
import { TickRow } from "../../ui/tick-row";

type Settable = string | boolean | null;

export type Moment = { now: number; lasts: number };

type Props = {
  control: Control;
  value: unknown;
  suggested?: string[];
  /** The present moment and how long the clip is, in seconds, for controls that set a moment. */
  moment?: Moment;
  onChange: (value: Settable) => void;
  onCommit: (value: Settable) => void;
};

const PX_ON_SLIDER = 600;

/** One thing that can be set, drawn by what the server says of it. */
export function ControlRow({ control, value, suggested, moment, onChange, onCommit }: Props) {
  const { label, unit, low, high, step, choices } = control;
  if (unit === "choice") {
    return <ChoiceRow label={label} value={String(value)} choices={choices} onChange={onCommit} />;
  }
  if (unit === "tick") {
    return (
      <TickRow ticked={Boolean(value)} onChange={onCommit}>
        {label}
      </TickRow>
    );
  }
  if (unit === "colour" || unit === "colour or none") {
    const row = (
      <ColourRow
        label={label}
        value={String(value || "#808080")}
        initial={String(control.default || "#808080")}
        suggested={suggested}
        onChange={onChange}
        onCommit={onCommit}
      />
    );
    if (unit === "colour") return row;
    return value ? (
      <div className="grid gap-1">
        {row}
        <button type="button" className="justify-self-end text-soft underline" onClick={() => onCommit(null)}>
          leave {label.toLowerCase()} out
        </button>
      </div>
    ) : (
      <button
        type="button"
        className="justify-self-start text-ochre underline"
        onClick={() => onCommit("#808080")}
      >
        add a colour: {label.toLowerCase()}
      </button>
    );
  }
  if (unit === "moment") {
    return (
      <div className="grid gap-0.5">
        <SliderRow
          {...{ label, step, low }}
          onChange={(number) => onChange(toExact(number))}
          onCommit={(number) => onCommit(toExact(number))}
          unit="s"
          high={moment?.lasts ?? high}
          typedHigh={high}
          initial={toNumber(String(control.default))}
          value={toNumber(String(value))}
        />
        {moment && (
          <button
            type="button"
            className="justify-self-end text-ochre underline"
            onClick={() => onCommit(toExact(moment.now, 3))}
          >
            Playhead
          </button>
        )}
      </div>
    );
  }
  // A typed shift may exceed the range that a slider can offer finely.
  const reach = unit === "px" ? Math.min(high, PX_ON_SLIDER) : high;
  return (
    <SliderRow
      {...{ label, unit, step }}
      low={unit === "px" ? Math.max(low, -reach) : low}
      high={reach}
      typedLow={low}
      typedHigh={high}
      initial={toNumber(String(control.default))}
      value={toNumber(String(value))}
      onChange={(number) => onChange(toExact(number))}
      onCommit={(number) => onCommit(toExact(number))}
    />
  );
}
