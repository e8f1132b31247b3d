import { useId } from "react";
import { boxPath, pathOf, type ScreenBox, type ScreenPoint } from "./view";

type Props = { viewer: { width: number; height: number }; all: ScreenPoint[]; kept: ScreenBox };

/** Hatching over the part of a shape that is not kept. */
export function LostHatching({ viewer, all, kept }: Props) {
  const id = useId();
  const outside = `${boxPath({ x: -9999, y: -9999, width: viewer.width + 19998, height: viewer.height + 19998 })} ${boxPath(kept)}`;
  return (
    <>
      <defs>
        <pattern
          id={`${id}h`}
          width="9"
          height="9"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <line x1="0" x2="0" y1="0" y2="9" stroke="currentColor" strokeWidth="1.4" opacity="0.75" />
        </pattern>
        <clipPath id={`${id}c`}>
          <path d={outside} clipRule="evenodd" />
        </clipPath>
      </defs>
      <path d={pathOf(all)} fill={`url(#${id}h)`} clipPath={`url(#${id}c)`} />
    </>
  );
}
