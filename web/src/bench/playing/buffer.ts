import type { Head } from "./span";

type Bytes = Uint8Array<ArrayBuffer>;
type Kind = "picture" | "sound";
/** As the server numbers them. */
const KINDS: Kind[] = ["picture", "sound"];
const BEGIN = 5;
/** Seconds: smaller gaps are none, as browsers have it. */
const GAP = 0.1;
/** Seconds: who waits with so little left waits for what comes behind it. */
const SHORT = 0.1;

/** Pieces of a stream, from bytes as they come: see the server's `play`. */
export class Pieces {
  private held: Bytes = new Uint8Array();

  taken(data: Bytes): { kind: Kind; data: Bytes }[] {
    const all = new Uint8Array(this.held.length + data.length);
    all.set(this.held);
    all.set(data, this.held.length);
    const view = new DataView(all.buffer);
    const found: { kind: Kind; data: Bytes }[] = [];
    let at = 0;
    while (at + BEGIN <= all.length) {
      const end = at + BEGIN + view.getUint32(at + 1);
      const kind = KINDS[view.getUint8(at)];
      if (end > all.length) break;
      if (kind) found.push({ kind, data: all.slice(at + BEGIN, end) });
      at = end;
    }
    this.held = all.slice(at);
    return found;
  }
}

/** The buffer that a browser plays from, filled piece by piece. */
export class PlayBuffer {
  private constructor(
    private readonly sources: Partial<Record<Kind, Filling>>,
    private readonly head: Head,
  ) {}

  static async opened(video: HTMLVideoElement, head: Head): Promise<PlayBuffer> {
    const media = new MediaSource();
    const address = URL.createObjectURL(media);
    video.src = address;
    await new Promise((opened) => media.addEventListener("sourceopen", opened, { once: true }));
    URL.revokeObjectURL(address);
    const picture = new Filling(media.addSourceBuffer(head.picture));
    return new PlayBuffer(
      head.sound ? { picture, sound: new Filling(media.addSourceBuffer(head.sound)) } : { picture },
      head,
    );
  }

  /** Whether what another head is of can go on in it. */
  suits({ picture, sound }: Head): boolean {
    return picture === this.head.picture && sound === this.head.sound;
  }

  /** How far what follows on a second is there already. */
  until(second: number): number {
    return Math.min(...this.all.map((one) => one.until(second)));
  }

  /** The second from which all of it is there, where it is not at a second; null where it is, or never is. */
  next(second: number): number | null {
    const starts = this.all.map((one) => one.next(second));
    if (starts.every((start) => start === second)) return null;
    return starts.includes(null) ? null : Math.max(...starts.map((start) => start ?? second));
  }

  async add({ kind, data }: { kind: Kind; data: Bytes }) {
    await this.sources[kind]?.add(data);
  }

  /** Everything appended from now on replaces the buffer from a second onwards. */
  async from(second: number) {
    for (const one of this.all) await one.from(second);
  }

  /** Drop parts watched long ago. */
  async forget(before: number) {
    for (const one of this.all) await one.forget(before);
  }

  private get all(): Filling[] {
    return Object.values(this.sources);
  }
}

/** One kind of it. */
class Filling {
  private last: Promise<void> = Promise.resolve();

  constructor(private readonly source: SourceBuffer) {}

  until(second: number): number {
    const { buffered } = this.source;
    for (let index = 0; index < buffered.length; index++)
      if (buffered.start(index) <= second + GAP && second < buffered.end(index)) return buffered.end(index);
    return second;
  }

  /** From when on there is something: the second itself, or later; null where there is nothing more. */
  next(second: number): number | null {
    const { buffered } = this.source;
    for (let index = 0; index < buffered.length; index++) {
      if (buffered.end(index) <= second + SHORT) continue;
      return buffered.start(index) <= second + SHORT ? second : buffered.start(index);
    }
    return null;
  }

  add(data: Bytes): Promise<void> {
    return this.turn(() => this.source.appendBuffer(data));
  }

  from(second: number): Promise<void> {
    return this.turn(() => {
      this.source.abort();
      this.source.timestampOffset = second;
      this.source.remove(second, Number.POSITIVE_INFINITY);
    });
  }

  forget(before: number): Promise<void> {
    return before > 0 ? this.turn(() => this.source.remove(0, before)) : this.last;
  }

  /** One thing after another; what fails is over. */
  private turn(act: () => void): Promise<void> {
    const turn = this.last
      .catch(() => undefined)
      .then(
        () =>
          new Promise<void>((done, failed) => {
            this.source.addEventListener("updateend", () => done(), { once: true });
            try {
              act();
            } catch (error) {
              failed(error);
            }
          }),
      );
    this.last = turn;
    return turn;
  }
}
