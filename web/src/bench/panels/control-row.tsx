import type { Control } from "../../api/client";
import { Button } from "../../ui/button";
import { ChoiceRow } from "../../ui/choice-row";
import { ColourRow } from "../../ui/colour-row";
import { toExact, toNumber } from "../../ui/exact";
import { SliderRow } from "../../ui/slider-row";
import { TickRow } from "../../ui/tick-row";
import { useBench } from "../state/use-bench";

type Settable = string | boolean | null;

type Props = {
  control: Control;
  value: unknown;
  suggested?: string[];
  onChange: (value: Settable) => void;
  onCommit: (value: Settable) => void;
};

const PX_ON_SLIDER = 600;
/** The colour that is added first. */
const GREY = "#808080";

/** One thing that can be set, drawn by what the server says of it. */
export function ControlRow(props: Props) {
  const { control, value, onChange, onCommit } = props;
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
  if (unit === "colour" || unit === "colour or none") return <OptionalColour {...props} />;
  if (unit === "moment") return <TimeRow {...props} />;
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

/** A colour, which some controls can leave out. */
function OptionalColour({ control, value, suggested, onChange, onCommit }: Props) {
  const { label, unit, default: initial } = control;
  const row = (
    <ColourRow
      label={label}
      value={String(value || GREY)}
      initial={String(initial || GREY)}
      suggested={suggested}
      onChange={onChange}
      onCommit={onCommit}
    />
  );
  if (unit === "colour") return row;
  if (!value)
    return (
      <Button look="link" className="justify-self-start" onClick={() => onCommit(GREY)}>
        add a colour: {label.toLowerCase()}
      </Button>
    );
  return (
    <div className="grid gap-1">
      {row}
      <Button look="subtle" className="justify-self-end" onClick={() => onCommit(null)}>
        leave {label.toLowerCase()} out
      </Button>
    </div>
  );
}

/** A time in the clip, in seconds; it can be set to the playhead. */
function TimeRow({
  control: { label, low, high, step, default: initial },
  value,
  onChange,
  onCommit,
}: Props) {
  const { time, footage } = useBench("time", "footage");
  return (
    <div className="grid gap-0.5">
      <SliderRow
        {...{ label, step, low }}
        onChange={(number) => onChange(toExact(number))}
        onCommit={(number) => onCommit(toExact(number))}
        unit="s"
        high={toNumber(footage.timing.duration)}
        typedHigh={high}
        initial={toNumber(String(initial))}
        value={toNumber(String(value))}
      />
      <Button look="link" className="justify-self-end" onClick={() => onCommit(toExact(toNumber(time), 3))}>
        Playhead
      </Button>
    </div>
  );
}
