import { toNumber } from "./exact";

/** A frame, as far as its outline goes. */
type Shape = { width: number; height: number; pixel_aspect: string };

/** A frame's shape as an outline, its longer side a number of screen pixels. */
export function Outline({ frame, size = 44 }: { frame: Shape; size?: number }) {
  const width = frame.width * toNumber(frame.pixel_aspect);
  const scale = size / Math.max(width, frame.height);
  return (
    <span
      className="block border border-soft"
      style={{ width: width * scale, height: frame.height * scale }}
    />
  );
}
