import { toNumber } from "../../ui/exact";
import { Player } from "../playing/player";
import { moment } from "../timecode";
import type { Transport } from "./transport";

/** Half a thousandth of a frame: stamps are rounded, and a picture begins with its own. */
const WITHIN = 5e-4;

/** The player whose pictures move the playhead. */
export const playerOf = (transport: Transport) =>
  new Player((time) => transport.follow(Math.floor(time * toNumber(transport.rate) + WITHIN)));

/** Play where the transport goes forwards; where nothing can be played, the playhead advances with the clock. */
export function connectPlayer(transport: Transport, player: Player): () => void {
  const disconnect = [
    transport.store.subscribe((now, before) => {
      const plays = now.speed > 0 && player.able;
      if (now.speed === before.speed && now.sought === before.sought) return;
      if (plays) {
        transport.drive(true);
        player.start(moment(now.frame, transport.rate), now.speed);
      } else if (player.store.getState().on) {
        transport.drive(false);
        player.stop();
      }
    }),
    // If the stream fails, pictures are requested one by one.
    player.store.subscribe(({ on }, before) => {
      if (before.on && !on) transport.drive(false);
    }),
    connectClock(transport),
  ];
  return () => {
    for (const stop of disconnect) stop();
    player.stop();
  };
}

/** Advance the playhead with the clock while it plays and no player drives it. */
function connectClock(transport: Transport): () => void {
  let request = 0;
  const runs = ({ speed, driven } = transport.store.getState()) => speed !== 0 && !driven;
  function start() {
    cancelAnimationFrame(request);
    if (!runs()) return;
    let before = performance.now();
    request = requestAnimationFrame(function advance(now) {
      transport.advance((now - before) / 1000);
      before = now;
      request = requestAnimationFrame(advance);
    });
  }
  const unsubscribe = transport.store.subscribe((now, before) => runs(now) !== runs(before) && start());
  return () => {
    unsubscribe();
    cancelAnimationFrame(request);
  };
}
