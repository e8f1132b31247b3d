import { useEffect } from "react";
import type { Plan } from "../../api/client";
import { designOf } from "../editor/scope";
import { extendsScene } from "../shots/shots";
import { useBench, usePlayed } from "../state/use-bench";
import type { Wanted } from "./player";

const LINES = { least: 540, most: 1080 };

/** The number of lines to play at for a height on the screen. */
export const linesOf = ({ height }: { height: number }) =>
  Math.min(LINES.most, Math.max(LINES.least, Math.round(height * window.devicePixelRatio)));

/** Let the player play some plans side by side at a height in lines while this component is on the page. */
export function usePlayable(plans: Plan[], lines: number, { source = false } = {}) {
  const {
    framingId,
    footage,
    loopShot: alone,
    player,
    stamp,
  } = useBench("framingId", "footage", "loopShot", "player", "stamp");
  const [first] = plans;
  const changing = plans.some(extendsScene) ? stamp : "";
  const wanted: Wanted = {
    framingId,
    designs: plans.map(designOf),
    lines,
    source,
    alone,
    stamp: JSON.stringify([footage.stamp, footage.range, first?.frame, first?.interpretation, changing]),
  };
  const key = plans.length > 0 && lines > 0 ? JSON.stringify(wanted) : "null";
  useEffect(() => player.want(JSON.parse(key) as Wanted | null), [player, key]);
  useEffect(() => () => player.want(null), [player]);
}

/**
 * Whether the playing picture, or the last of it, is shown. It stays until its replacement is there, as `ready` says.
 */
export function useShowsPlayed(ready: boolean): boolean {
  const { player } = useBench("player");
  const { on, seen } = usePlayed();
  const over = !on && ready;
  useEffect(() => {
    if (over) player.release();
  }, [over, player]);
  return on || seen;
}
