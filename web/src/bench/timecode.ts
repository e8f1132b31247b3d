import { parts } from "../api/exact";

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
