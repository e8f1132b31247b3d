import type { ImgHTMLAttributes } from "react";
import type { Frame } from "../api/client";
import { PatientImage } from "../ui/patient-image";
import { aspectOf } from "./aspect";

/** The frames of a delivered range that are shown of a framing. */
export const MOMENTS = ["first", "middle", "last"] as const;
export type Moment = (typeof MOMENTS)[number];

/** Widths of the pictures requested: few, so that pictures for one height serve others. */
const MADE = [240, 480, 720, 960];

type Props = Pick<ImgHTMLAttributes<HTMLImageElement>, "alt" | "className"> & {
  framing: number;
  /** Of the board; with another stamp the picture is another. */
  stamp: string;
  frame: Frame;
  /** In pixels of the page. */
  height: number;
  at?: Moment;
};

/** A framing at a moment, as it will be rendered. */
export function FramingPicture({ framing, stamp, frame, height, at = "middle", alt, className }: Props) {
  const width = aspectOf(frame) * height;
  const made = MADE.find((one) => one >= width) ?? width;
  return (
    <PatientImage
      alt={alt}
      loading="lazy"
      decoding="async"
      draggable={false}
      className={className}
      style={{ width, height }}
      src={`/api/framings/${framing}/thumbnail?width=${Math.ceil(made)}&stamp=${stamp}&at=${at}`}
    />
  );
}
