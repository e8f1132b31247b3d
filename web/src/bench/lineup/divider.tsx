import type { Alternative } from "../../api/client";
import { Button } from "../../ui/button";
import { useEdge } from "../../ui/use-edge";
import { Played } from "../playing/played";
import type { Player } from "../playing/player";
import { useShows } from "../playing/use-player";
import { usePreview } from "../use-preview";

type Props = {
  framingId: number;
  ways: [Alternative, Alternative];
  time: string;
  player: Player;
  onClose: () => void;
};

const WIDTH = 1100;

/** Two alternatives on one another, with an edge between them to drag. */
export function Divider({ framingId, ways: [left, right], time, player, onClose }: Props) {
  const { at, slider } = useEdge("Edge between the two", (held) => held.getBoundingClientRect());
  const wish = { framingId, time, width: WIDTH };
  const first = usePreview("divider left", { ...wish, plan: left.design });
  const second = usePreview("divider right", { ...wish, plan: right.design });

  const clipPath = `inset(0 ${(1 - at) * 100}% 0 0)`;
  const shows = useShows(player, first?.time === time && second?.time === time);
  return (
    <div className="grid gap-3">
      <div className="flex items-baseline justify-between">
        <span className="font-semibold">{left.name}</span>
        <Button onClick={onClose}>Back to all</Button>
        <span className="font-semibold">{right.name}</span>
      </div>
      <div className="flex justify-center bg-well p-3">
        <div {...slider} className="relative cursor-ew-resize touch-none">
          {second?.url && (
            <img alt={right.name} draggable={false} className="block max-h-[54vh]" src={second.url} />
          )}
          {first?.url && (
            <img
              alt={left.name}
              draggable={false}
              className="absolute inset-0 h-full w-full"
              style={{ clipPath }}
              src={first.url}
            />
          )}
          {shows && <Played player={player} tile={1} className="inset-0" />}
          {shows && <Played player={player} className="inset-0" style={{ clipPath }} />}
          <span className="absolute inset-y-0 w-0.5 bg-chalk" style={{ left: `${at * 100}%` }} />
        </div>
      </div>
    </div>
  );
}
