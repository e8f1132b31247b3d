import { parts } from "../ui/exact";

/** The number of frames in a second that a timecode counts: the rate rounded up, so 30000/1001 counts 30. */
function counted(rate: string): number {
  const [above, below] = parts(rate);
  return Math.max(1, Math.round(above / below));
}

const two = (value: number) => String(value).padStart(2, "0");

/** Hours, minutes, seconds and frames of a frame number; non-drop. */
export function timecode(frame: number, rate: string): string {
  const each = counted(rate);
  const seconds = Math.floor(frame / each);
  const clock = [Math.floor(seconds / 3600), Math.floor(seconds / 60) % 60, seconds % 60, frame % each];
  return clock.map(two).join(":");
}

/**
 * The frame that a typed time code names: numbers of hours, minutes, seconds and frames from the right, such as
 * "4:12" or "412", or "+25" and "-1:00" from a frame. Null if it is none.
 */
export function frameOf(typed: string, from: number, rate: string): number | null {
  const [, sign, text = ""] = /^\s*([+-]?)\s*([\d:;.,]+)\s*$/.exec(typed) ?? [];
  const digits = /^\d+$/.test(text) ? text.replace(/\B(?=(\d\d)+$)/g, ":") : text;
  const numbers = digits.split(/[:;.,]/).map(Number);
  if (!text || numbers.length > 4 || numbers.some(Number.isNaN)) return null;
  const [frames = 0, seconds = 0, minutes = 0, hours = 0] = numbers.reverse();
  const frame = ((hours * 60 + minutes) * 60 + seconds) * counted(rate) + frames;
  return sign ? from + (sign === "-" ? -frame : frame) : frame;
}

/** The number of the frame that a time in seconds, as exact text, lies in. */
export function frameAt(time: string, rate: string): number {
  const [above, below] = parts(rate);
  const [seconds, part] = parts(time);
  // A rounded time may lie slightly before its frame.
  return Math.floor((seconds / part) * (above / below) + 0.01);
}

/** The exact moment at which a frame begins, in seconds, as exact text. */
export function startOf(frame: number, rate: string): string {
  const [above, below] = parts(rate);
  return `${frame * below}/${above}`;
}

/** The exact moment in the middle of a frame, in seconds, as exact text; the middle cannot be mistaken for a neighbour. */
export function moment(frame: number, rate: string): string {
  const [above, below] = parts(rate);
  return `${(2 * frame + 1) * below}/${2 * above}`;
}
