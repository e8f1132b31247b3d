import type { Frame } from "../api/client";
import { toNumber } from "../ui/exact";

/** The width of a frame for its height, as it is displayed. */
export const aspectOf = ({ width, height, pixel_aspect }: Frame) => (width * toNumber(pixel_aspect)) / height;
