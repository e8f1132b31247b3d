import type { FrameRow, Settings } from "../api/client";

type Props = { row: FrameRow; set: (fields: Partial<Settings>) => void };

const SIDE = 92;

/** With an active picture: the contents of the file, as outlines with their sizes. A choice is required. */
export function BarsChoice({ row, set }: Props) {
  const { bars, settings } = row;
  if (!bars) return null;
  const scale = SIDE / Math.max(bars.width, bars.height);
  const inner = {
    left: bars.left * scale,
    top: bars.top * scale,
    width: bars.inner_width * scale,
    height: bars.inner_height * scale,
  };
  const choices: { value: Settings["bars"]; size: string; label: string; whole: boolean }[] = [
    {
      value: "whole_frame",
      size: `${bars.width}×${bars.height}`,
      label: `Bars: ${bars.summary}`,
      whole: true,
    },
    {
      value: "active_picture_only",
      size: `${bars.inner_width}×${bars.inner_height}`,
      label: "No bars",
      whole: false,
    },
  ];
  return (
    <fieldset className="grid gap-2">
      <legend className={`pb-1.5 ${bars.decided ? "" : "font-semibold text-rust"}`}>
        {bars.decided ? "The file holds" : "Say what the file holds before it is rendered:"}
      </legend>
      <div className="grid grid-cols-2 gap-2">
        {choices.map(({ value, size, label, whole }) => (
          <label
            key={value}
            className={`relative grid cursor-pointer content-between justify-items-center gap-1.5 rounded border-2 bg-sheet px-2 py-2 text-center ${
              settings.bars === value ? "border-ochre" : "border-rule hover:border-soft"
            }`}
          >
            <input
              type="radio"
              name="bars"
              className="sr-only"
              checked={settings.bars === value}
              onChange={() => set({ bars: value })}
            />
            <span
              className={`relative block ${whole ? "bg-ink outline outline-ink" : ""}`}
              style={{ width: bars.width * scale, height: bars.height * scale }}
              aria-hidden="true"
            >
              <span className={`absolute bg-paper ${whole ? "" : "outline-2 outline-ink"}`} style={inner} />
            </span>
            <span className="num">{size}</span>
            <span className="text-soft">{label}</span>
          </label>
        ))}
      </div>
    </fieldset>
  );
}
