import { createStore, type StoreApi } from "zustand/vanilla";
import { toNumber } from "../../ui/exact";
import { useActivity } from "./activity";

const FASTEST = 8;

type Timing = { frames: number; rate: string };
/**
 * The frame of the playhead, and the speed: 0 stands, 1 plays, -2 plays backwards twice as fast. `rest` is the frame
 * where it stood last; `sought` changes whenever the playhead is moved while it plays. While `driven`, a player moves the
 * playhead.
 */
export type TransportState = { frame: number; rest: number; speed: number; sought: number; driven: boolean };

/** The playhead and playing. Components that show the frame follow it; all others only when it rests. */
export class Transport {
  readonly store: StoreApi<TransportState>;
  private exact: number;

  /** Starts at a frame of a clip, by default in the middle. */
  constructor(
    private timing: Timing,
    first: number | null = null,
  ) {
    const { frames } = timing;
    const frame = Math.min(frames - 1, Math.max(0, first ?? Math.floor(frames / 2)));
    this.exact = frame;
    this.store = createStore<TransportState>(() => ({
      frame,
      rest: frame,
      speed: 0,
      sought: 0,
      driven: false,
    }));
  }

  get frame() {
    return this.store.getState().frame;
  }

  get rate() {
    return this.timing.rate;
  }

  /** The clip has another length or rate now, as a still that lasts longer. */
  setTiming(timing: Timing) {
    this.timing = timing;
    if (this.frame >= timing.frames) this.go(timing.frames - 1);
  }

  go = (to: number) => {
    const frame = Math.min(this.last, Math.max(0, Math.round(to)));
    this.exact = frame;
    this.show(frame);
    this.store.setState(({ speed, sought }) => ({ sought: speed ? sought + 1 : sought }));
  };

  /** The player shows a frame. */
  follow(frame: number) {
    this.exact = Math.min(this.last, Math.max(0, frame));
    this.show(this.exact);
  }

  drive(driven: boolean) {
    this.store.setState({ driven });
    useActivity.setState({ playing: driven });
  }

  step = (by: number) => {
    this.stop();
    this.go(Math.floor(this.exact) + by);
  };

  toggle = () => this.play(this.store.getState().speed ? 0 : 1);
  faster = (way: 1 | -1) => {
    const { speed } = this.store.getState();
    this.play(speed * way > 0 ? Math.min(FASTEST, Math.abs(speed) * 2) * way : way);
  };
  stop = () => this.play(0);

  /** Some seconds have passed. Playing loops, so that a short clip can be watched. */
  advance(seconds: number) {
    const { frames, rate } = this.timing;
    this.exact += seconds * toNumber(rate) * this.store.getState().speed;
    this.exact = ((this.exact % frames) + frames) % frames;
    this.show(Math.floor(this.exact));
  }

  play(speed: number) {
    this.store.setState(({ frame, rest }) => ({ speed, rest: speed ? rest : frame }));
  }

  private get last() {
    return this.timing.frames - 1;
  }

  private show(frame: number) {
    this.store.setState(({ speed, rest }) => ({ frame, rest: speed ? rest : frame }));
  }
}
