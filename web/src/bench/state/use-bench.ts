import { useStore } from "zustand";
import { pageStore } from "../../ui/page-store";
import type { TransportState } from "./transport";
import type { BenchState } from "./types";

/** `useBench` names the fields that a component shows; `useBenchState` gives the present state, for a callback. */
export const {
  Provider: BenchContext,
  useFields: useBench,
  useGetState: useBenchState,
} = pageStore<BenchState>();

const useTransport = <Value>(select: (state: TransportState) => Value): Value =>
  useStore(useBench("transport").transport.store, select);

/** The frame that is shown, also while it plays. */
export const useFrame = () => useTransport(({ frame }) => frame);
/** The frame that is shown; while a player drives the playhead, the one where it started. */
export const useStill = () => useTransport(({ frame, rest, driven }) => (driven ? rest : frame));
/** Whether a player drives the playhead. */
export const useDriven = () => useTransport(({ driven }) => driven);
export const useSpeed = () => useTransport(({ speed }) => speed);

/** The state of the player. */
export const usePlayed = () => useStore(useBench("player").player.store);
