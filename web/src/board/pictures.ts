import { useEffect, useState } from "react";
import type { FrameRow } from "../api/client";
import { aspectOf } from "../frames/aspect";
import { useKept } from "../ui/kept";

/** All pictures of a board have one height, in pixels of the page, that a slider sets between these. */
export const LOWEST = 72;
export const HIGHEST = 320;
/** The heights that they begin with: the first where there is little room, the second where there is much. */
const USUAL = 168;
const FILLED = 240;
export const STEP = 8;
/** A column is never narrower, so that two short lines of text fit below its pictures. */
const NARROWEST = 132;

/** The width of a frame's cells: text never decides it. */
export const cellWidth = ({ frame }: FrameRow, height: number) =>
  Math.max(NARROWEST, Math.round(aspectOf(frame) * height));

/** The width of a frame's column, with the gap beside it. */
export const columnWidth = (row: FrameRow, height: number) => cellWidth(row, height) + GAP;

/** The width of all columns, with that of the clips. */
export const boardWidth = (frames: FrameRow[], height: number) =>
  frames.reduce((sum, frame) => sum + columnWidth(frame, height), CLIP_WIDTH);

/** The greatest height, in steps, at which all columns fit beside one another and two rows and a half are in sight. */
function heightThatFits(frames: FrameRow[], room: { width: number; height: number }): number {
  const most = Math.min(FILLED, Math.max(USUAL, room.height / ROWS_IN_SIGHT - BELOW));
  for (let height = most - (most % STEP); height > LOWEST; height -= STEP) {
    if (boardWidth(frames, height) <= room.width) return height;
  }
  return LOWEST;
}

const sizeNow = () => ({ width: window.innerWidth, height: window.innerHeight });

function useWindowSize() {
  const [size, setSize] = useState(sizeNow);
  useEffect(() => {
    const measure = () => setSize(sizeNow());
    window.addEventListener("resize", measure);
    return () => window.removeEventListener("resize", measure);
  }, []);
  return size;
}

/** The height of pictures on boards: as chosen with the slider, or so that all frames fit. */
export function usePictureHeight(frames: FrameRow[]) {
  const [chosen, choose] = useKept<number | null>("board.height", null);
  const { width, height } = useWindowSize();
  const room = { width: width - 2 * MARGIN, height: height - ABOVE };
  const fitting = width <= NARROW ? USUAL : heightThatFits(frames, room);
  return { height: chosen ?? fitting, choose, reset: () => choose(null) };
}

export const CLIP_WIDTH = 212;
const GAP = 12;
const MARGIN = 28; // of the page, with its scroll bar
const NARROW = 768;
/** Of the page above its rows, and of the text below each picture; in pixels. */
const ABOVE = 280;
export const BELOW = 64;
const ROWS_IN_SIGHT = 2.5;
