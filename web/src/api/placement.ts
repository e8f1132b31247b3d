import type { Frame, Placement, Surround } from "./client";

/** A placement as it is before anything was done: whole, in the middle, straight. */
const UNTOUCHED: Placement = {
  sizing: "tightness",
  scale: "1",
  tightness: "0",
  offset_x: "0",
  offset_y: "0",
  angle: "0",
  mirror: false,
};

/** A placement of which some things are said. */
export function placement(fields: Partial<Placement>): Placement {
  return { ...UNTOUCHED, ...fields };
}

/** A frame of which some things are said. */
export function frame(fields: Partial<Frame> & Pick<Frame, "width" | "height">): Frame {
  return {
    name: "",
    pixel_aspect: "1",
    active: null,
    outside: "bars",
    bar_colour: "#000000",
    rate: null,
    fields: "progressive",
    colour: "sdr",
    ...fields,
  };
}

/** A surround of the well's own grey, as if there were none. */
export const WELL: Surround = {
  kind: "plain",
  colour: "#777777",
  brightness: "100",
  saturation: "100",
  tinted: "0",
  tint: "#a07850",
  opacity: "100",
  base: "#000000",
};
