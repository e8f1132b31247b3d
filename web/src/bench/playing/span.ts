/** What the server says of a stream: `PlayHead` of the core. */
export type Head = {
  picture: string;
  sound: string | null;
  width: number;
  height: number;
  across: number;
  down: number;
  start: number;
  loop_start: number;
  loop_length: number;
  speed: number;
};

/** A stream, and the second at which it starts in what is watched so far. */
export type Span = { at: number; head: Head };

/** The moment of the clip, in seconds, that is seen when so many seconds were watched. */
export function clipTime(spans: Span[], watched: number): number {
  const span = spans.findLast(({ at }) => at <= watched) ?? spans[0];
  if (!span) return 0;
  const { start, loop_start, loop_length, speed } = span.head;
  const seconds = Math.max(0, watched - span.at);
  const toEnd = (loop_start - start) / speed + loop_length;
  if (seconds < toEnd) return start + seconds * speed;
  return loop_start + ((seconds - toEnd) % loop_length) * speed;
}
