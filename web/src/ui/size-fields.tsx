import { Button } from "./button";
import { NumberField } from "./number-field";

type Size = { width: number; height: number };
type Props = Size & { of?: string; onChange: (size: Size) => void };

/** Width × height of a frame, in whole pixels. */
export function SizeFields({ width, height, of = "", onChange }: Props) {
  const field = { unit: "px", low: 16, high: 8192, step: 2, decimals: 0, className: "w-28" };
  return (
    <>
      <NumberField
        label={`Width${of}`}
        {...field}
        value={width}
        onCommit={(value) => onChange({ width: Math.round(value), height })}
      />
      ×
      <NumberField
        label={`Height${of}`}
        {...field}
        value={height}
        onCommit={(value) => onChange({ width, height: Math.round(value) })}
      />
      <Button
        look="link"
        aria-label={`Swap the sides${of}`}
        title="Swap width and height"
        onClick={() => onChange({ width: height, height: width })}
      >
        Swap
      </Button>
    </>
  );
}
