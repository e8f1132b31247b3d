import { createStore } from "zustand/vanilla";
import { type Design, postRaw } from "../../api/client";
import { Pieces, PlayBuffer } from "./buffer";
import { clipTime, type Head, type Span } from "./span";

/** The things to play; `stamp` differs if the picture differs though everything else is the same. */
export type Wanted = {
  framingId: number;
  designs: Design[];
  lines: number;
  source: boolean;
  /** Whether only the shot that is seen is played. */
  alone: boolean;
  stamp: string;
};
export type PlayState = {
  /** Whether it plays, or is about to. */
  on: boolean;
  /** Whether there is a picture, also the last one that was played. */
  seen: boolean;
  head: Head | null;
  /** By how much each side is smaller than was asked for, since the machine does not keep up. */
  part: number;
  muted: boolean;
  error: unknown;
};

/** Seconds of the future in which a change takes effect: about what the server needs for its first picture. */
const SOON = 0.35;
/** Seconds buffered before playing starts, and seconds kept after they were watched. */
const BEGINS_WITH = 0.1;
const KEPT = 10;
/** Seconds that may be left out where two changes came so soon that nothing lies between them. */
const MOST_LEFT = 1;
/** Milliseconds that a browser gets to resume without help. */
const PATIENCE_MS = 400;
/** Seconds within a picture: stamps are rounded. */
const WITHIN = 0.01;
/** How long the hand must rest before a change is played, in milliseconds. */
const REST_MS = 120;
const MUTED = "muted";

/** Plays composed pictures with sound, as the server makes them. A change continues from the same moment. */
export class Player {
  readonly video = document.createElement("video");
  readonly store = createStore<PlayState>(() => ({
    on: false,
    seen: false,
    head: null,
    part: 1,
    muted: localStorage.getItem(MUTED) === "true",
    error: null,
  }));
  private readonly viewer = Math.random().toString(36).slice(2);
  /** How many questions were asked: they may reach the server in another order. */
  private turn = 0;
  private wanted: Wanted | null = null;
  private speed = 1;
  private spans: Span[] = [];
  private buffer: PlayBuffer | null = null;
  private fetching: AbortController | null = null;
  /** Whether the server is preparing, and the next question. */
  private asking = false;
  private next: { time: string | null } | null = null;
  /** When it was last sent over a gap. */
  private sent = 0;
  private rest: ReturnType<typeof setTimeout> | undefined;

  /** `seen` receives the moment of the clip, in seconds, of every picture shown. */
  constructor(private readonly seen: (time: number) => void) {
    this.video.playsInline = true;
    this.video.muted = this.store.getState().muted;
    this.video.addEventListener("resize", () => this.measure());
    this.follow();
  }

  /** Whether browser and page can play at all. */
  get able(): boolean {
    return (
      this.wanted !== null &&
      "MediaSource" in window &&
      TYPES.every((type) => MediaSource.isTypeSupported(type))
    );
  }

  /** Set the things to play. If it is playing, it continues with them. */
  want(wanted: Wanted | null) {
    const changed = JSON.stringify(wanted) !== JSON.stringify(this.wanted);
    this.wanted = wanted;
    if (!changed || !this.store.getState().on) return;
    clearTimeout(this.rest);
    this.rest = setTimeout(() => this.run(null), REST_MS);
  }

  /** Play from a moment of the clip on, in seconds as exact text; where it plays already, go there. */
  start(time: string, speed: number) {
    this.speed = speed;
    this.store.setState({ on: true, error: null });
    this.run(time);
  }

  stop() {
    clearTimeout(this.rest);
    this.fetching?.abort();
    this.fetching = null;
    this.asking = false;
    this.next = null;
    this.video.pause();
    this.buffer = null;
    this.store.setState({ on: false });
  }

  /** The last picture that was played is not needed any more. */
  release() {
    if (this.store.getState().on) return;
    this.video.removeAttribute("src");
    this.video.load();
    this.spans = [];
    this.store.setState({ seen: false, head: null, part: 1 });
  }

  mute = () => {
    const muted = !this.video.muted;
    this.video.muted = muted;
    localStorage.setItem(MUTED, String(muted));
    this.store.setState({ muted });
  };

  /** One question at a time: of those that come while the server prepares, only the newest is asked. */
  private async run(time: string | null) {
    if (this.asking) {
      this.next = { time: time ?? this.next?.time ?? null };
      return;
    }
    const { wanted } = this;
    if (!wanted) return;
    this.fetching?.abort();
    const fetching = new AbortController();
    this.fetching = fetching;
    this.asking = true;
    try {
      const over = await this.stream(wanted, time, fetching.signal);
      // A watched stream restarts, whatever ended it.
      if (over && this.fetching === fetching) this.run(null);
    } catch (error) {
      if (this.fetching !== fetching) return;
      this.asking = false;
      this.stop();
      this.store.setState({ error });
    }
  }

  /** The server has answered: continue with the question that came meanwhile. Returns whether there was one. */
  private answered(): boolean {
    this.asking = false;
    const { next } = this;
    this.next = null;
    if (next && this.store.getState().on) this.run(next.time);
    return next !== null;
  }

  /** Play what the server makes. Says whether it came to an end though something of it had come. */
  private async stream(
    { framingId, stamp: _, ...wanted }: Wanted,
    time: string | null,
    signal: AbortSignal,
  ): Promise<boolean> {
    const planned = this.planned();
    const body = {
      ...wanted,
      time: time ?? clipTime(this.spans, planned).toFixed(6),
      speed: this.speed,
      viewer: this.viewer,
      turn: ++this.turn,
    };
    const response = await postRaw(`/api/framings/${framingId}/play`, {
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify(body),
      signal,
    });
    const head = JSON.parse(response.headers.get("Cadrage-Play") ?? "") as Head;
    const reader = response.body?.getReader();
    if (!reader) return false;
    const pieces = new Pieces();
    if (this.answered()) return false;
    const buffer = await this.begin(head, planned);
    let some = false;
    for (let read = await reader.read(); !read.done; read = await reader.read()) {
      for (const piece of pieces.taken(read.value as Uint8Array<ArrayBuffer>)) {
        if (signal.aborted) return false;
        await buffer.add(piece);
        some = true;
      }
      this.goOn(buffer);
    }
    return some;
  }

  /** The second from which a change shows: soon, and no later than the buffer lasts. */
  private planned(): number {
    if (!this.buffer) return 0;
    const now = this.video.currentTime;
    return Math.max(now, Math.min(now + SOON, this.buffer.until(now)));
  }

  /** Prepare for a stream, the first or a replacement for the buffered rest. */
  private async begin(head: Head, planned: number): Promise<PlayBuffer> {
    if (this.buffer?.suits(head)) {
      const waits = this.video.readyState < this.video.HAVE_FUTURE_DATA;
      const at = waits ? planned : Math.max(planned, this.video.currentTime + WITHIN);
      this.spans = [...this.spans.filter((span) => span.at < at), { at, head }];
      await this.buffer.from(at);
    } else {
      this.spans = [{ at: 0, head }];
      this.buffer = await PlayBuffer.opened(this.video, head);
    }
    this.store.setState({ head });
    this.measure();
    return this.buffer;
  }

  private goOn(buffer: PlayBuffer) {
    const { video } = this;
    const now = video.currentTime;
    if (video.paused && this.buffer === buffer && buffer.until(now) - now > BEGINS_WITH)
      video.play().catch((error) => this.fetching?.signal.aborted || this.store.setState({ error }));
    this.overcome(buffer, now);
    if (now > 2 * KEPT && video.buffered.start(0) < now - 2 * KEPT) buffer.forget(now - KEPT);
  }

  /** A browser that waits before a gap keeps waiting when data arrives behind it: seek past the gap. */
  private overcome(buffer: PlayBuffer, now: number) {
    const { video } = this;
    const waits = !video.paused && !video.seeking && video.readyState < video.HAVE_FUTURE_DATA;
    if (!waits || performance.now() - this.sent < PATIENCE_MS) return;
    const there = buffer.until(now) - now > SOON ? now : buffer.next(now);
    if (there === null || there - now > MOST_LEFT) return;
    this.sent = performance.now();
    video.currentTime = there + WITHIN;
  }

  private measure() {
    const { head } = this.store.getState();
    const { videoHeight } = this.video;
    if (head && videoHeight)
      this.store.setState({ part: Math.max(1, Math.round(head.height / videoHeight)) });
  }

  private follow() {
    const next = (_: number, { mediaTime }: VideoFrameCallbackMetadata) => {
      const { on, seen } = this.store.getState();
      if (!seen) this.store.setState({ seen: true });
      if (on) this.seen(clipTime(this.spans, mediaTime));
      this.video.requestVideoFrameCallback(next);
    };
    this.video.requestVideoFrameCallback?.(next);
  }
}

const TYPES = ['video/mp4; codecs="avc1.640028"', 'audio/mp4; codecs="flac"'];
