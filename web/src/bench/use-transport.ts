import { useEffect, useMemo } from "react";
import { useStore } from "zustand";
import { createStore, type StoreApi } from "zustand/vanilla";
import { toNumber } from "../ui/exact";

const FASTEST = 8;

/**
 * Where we are; at a speed of 0 it stands, 1 plays, -2 plays backwards twice as fast. `rest` waits while it plays;
 * `sought` changes whenever the playhead was moved meanwhile. While `driven`, a player moves the playhead.
 */
type State = { frame: number; rest: number; speed: number; sought: number; driven: boolean };

/** Whether anything on the page plays: then nothing else asks for pictures. */
export const driving = createStore(() => ({ any: false }));

/** The playhead and playing. Components that show the frame follow it; all others only when it rests. */
export class Transport {
  readonly store: StoreApi<State>;
  private exact: number;

  /** It begins at a picture; in the middle, where none is named. */
  constructor(
    private readonly frames: number,
    first: number | null = null,
  ) {
    const frame = Math.min(frames - 1, Math.max(0, first ?? Math.floor(frames / 2)));
    this.exact = frame;
    this.store = createStore<State>(() => ({ frame, rest: frame, speed: 0, sought: 0, driven: false }));
  }

  get frame() {
    return this.store.getState().frame;
  }

  go = (to: number) => {
    const frame = Math.min(this.frames - 1, Math.max(0, Math.round(to)));
    this.exact = frame;
    this.show(frame);
    this.store.setState(({ speed, sought }) => ({ sought: speed ? sought + 1 : sought }));
  };

  /** A picture is seen that something plays. */
  follow(frame: number) {
    this.exact = Math.min(this.frames - 1, Math.max(0, frame));
    this.show(this.exact);
  }

  drive(driven: boolean) {
    this.store.setState({ driven });
    driving.setState({ any: driven });
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

  /** Some seconds have gone by. Playing goes round, so that a short clip can be watched. */
  advance(seconds: number, rate: number) {
    this.exact += seconds * rate * this.store.getState().speed;
    this.exact = ((this.exact % this.frames) + this.frames) % this.frames;
    this.show(Math.floor(this.exact));
  }

  play(speed: number) {
    this.store.setState(({ frame, rest }) => ({ speed, rest: speed ? rest : frame }));
  }

  private show(frame: number) {
    this.store.setState(({ speed, rest }) => ({ frame, rest: speed ? rest : frame }));
  }
}

export function useTransport(frames: number, rate: string, first: number | null = null): Transport {
  // biome-ignore lint/correctness/useExhaustiveDependencies: where it began is asked once
  const transport = useMemo(() => new Transport(frames, first), [frames]);
  const playing = useStore(transport.store, ({ speed, driven }) => speed !== 0 && !driven);
  useEffect(() => {
    if (!playing) return;
    let before = performance.now();
    let request = requestAnimationFrame(function advance(now) {
      transport.advance((now - before) / 1000, toNumber(rate));
      before = now;
      request = requestAnimationFrame(advance);
    });
    return () => cancelAnimationFrame(request);
  }, [playing, rate, transport]);
  return transport;
}

/** The frame that is shown, also while it plays. */
export const useFrame = (transport: Transport) => useStore(transport.store, ({ frame }) => frame);
/** The frame where it came to rest last. */
export const useRest = (transport: Transport) => useStore(transport.store, ({ rest }) => rest);
/** The frame shown; while a player drives the playhead, the one where it started. */
export const useStill = (transport: Transport) =>
  useStore(transport.store, ({ frame, rest, driven }) => (driven ? rest : frame));
/** Whether something plays that tells where it is. */
export const useDriven = (transport: Transport) => useStore(transport.store, ({ driven }) => driven);
export const useSpeed = (transport: Transport) => useStore(transport.store, ({ speed }) => speed);
