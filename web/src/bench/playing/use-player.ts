import { useEffect, useMemo } from "react";
import { useStore } from "zustand";
import { toNumber } from "../../ui/exact";
import { moment } from "../timecode";
import type { Transport } from "../use-transport";
import { Player, type Wanted } from "./player";

/** Half a thousandth of a frame: stamps are rounded, and a picture begins with its own. */
const WITHIN = 5e-4;

/** What plays a framing: it follows the transport where it goes forwards, and tells it where it is. */
export function usePlayer(transport: Transport, rate: string): Player {
  const perSecond = toNumber(rate);
  const player = useMemo(
    () => new Player((time) => transport.follow(Math.floor(time * perSecond + WITHIN))),
    [transport, perSecond],
  );
  useEffect(() => {
    const unsubscribe = transport.store.subscribe((now, before) => {
      const plays = now.speed > 0 && player.able;
      if (now.speed === before.speed && now.sought === before.sought) return;
      if (plays) {
        transport.drive(true);
        player.start(moment(now.frame, rate), now.speed);
      } else if (player.store.getState().on) {
        transport.drive(false);
        player.stop();
      }
    });
    // Where nothing comes, the pictures that are made one by one go on by themselves.
    const failing = player.store.subscribe(({ on }, before) => {
      if (before.on && !on) transport.drive(false);
    });
    return () => {
      unsubscribe();
      failing();
      player.stop();
    };
  }, [transport, player, rate]);
  return player;
}

/** Have the player play something while a part of the page is there. */
export function useWanted(player: Player, wanted: Wanted | null) {
  const key = JSON.stringify(wanted);
  useEffect(() => player.want(JSON.parse(key) as Wanted | null), [player, key]);
  useEffect(() => () => player.want(null), [player]);
}

/**
 * Whether the playing picture, or the last of it, is shown. It stays until its replacement is there, as `ready` says.
 */
export function useShows(player: Player, ready: boolean): boolean {
  const { on, seen } = usePlayed(player);
  const over = !on && ready;
  useEffect(() => {
    if (over) player.release();
  }, [over, player]);
  return on || seen;
}

export const usePlayed = (player: Player) => useStore(player.store);
