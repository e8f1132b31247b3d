import { toNumber } from "../../ui/exact";
import type { View } from "./view";

type Met = { label: string; line: string };

type Props = {
  snapped: { across: Met | null; down: Met | null };
  view: View;
  size: { width: number; height: number };
};

/** Says what the picture has snapped to, and where. */
export function SnapLines({ snapped, view, size }: Props) {
  const { across, down } = snapped;
  return (
    <>
      {across && (
        <div
          className="pointer-events-none absolute w-px bg-chalk"
          style={{ left: view.left + toNumber(across.line) * view.across, top: 0, height: size.height }}
        />
      )}
      {down && (
        <div
          className="pointer-events-none absolute h-px bg-chalk"
          style={{ top: view.top + toNumber(down.line) * view.down, left: 0, width: size.width }}
        />
      )}
      {(across || down) && (
        <p className="num pointer-events-none absolute top-3 left-1/2 -translate-x-1/2 rounded bg-night px-2 py-1 text-chalk">
          {[across && `${across.label} across`, down && `${down.label} down`].filter(Boolean).join(", ")}
        </p>
      )}
    </>
  );
}
