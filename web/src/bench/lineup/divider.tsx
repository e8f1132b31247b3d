import type { Alternative } from "../../api/client";
import { Button } from "../../ui/button";
import { useEdge } from "../../ui/use-edge";
import { Played } from "../playing/played";
import { useShowsPlayed } from "../playing/use-playable";
import { useBench } from "../state/use-bench";
import { usePreview } from "../use-preview";

type Props = { ways: [Alternative, Alternative]; onClose: () => void };

const WIDTH = 1100;

/** Two alternatives on one another, with an edge between them to drag. */
export function Divider({ ways: [left, right], onClose }: Props) {
  const { time } = useBench("time");
  const { at, slider } = useEdge("Edge between the two", (held) => held.getBoundingClientRect());
  const wish = { time, width: WIDTH };
  const first = usePreview({ ...wish, plan: left.design });
  const second = usePreview({ ...wish, plan: right.design });

  const clipPath = `inset(0 ${(1 - at) * 100}% 0 0)`;
  const shows = useShowsPlayed(first?.time === time && second?.time === time);
  return (
    <div className="grid gap-3">
      <div className="flex items-baseline justify-between">
        <span className="font-semibold">{left.name}</span>
        <Button onClick={onClose}>Back to all</Button>
        <span className="font-semibold">{right.name}</span>
      </div>
      <div className="flex justify-center bg-well p-3">
        <div {...slider} className="relative cursor-ew-resize touch-none">
          {second?.picture && (
            <img alt={right.name} draggable={false} className="block max-h-[54vh]" src={second.picture} />
          )}
          {first?.picture && (
            <img
              alt={left.name}
              draggable={false}
              className="absolute inset-0 h-full w-full"
              style={{ clipPath }}
              src={first.picture}
            />
          )}
          {shows && <Played tile={1} className="inset-0" />}
          {shows && <Played className="inset-0" style={{ clipPath }} />}
          <span className="absolute inset-y-0 w-0.5 bg-chalk" style={{ left: `${at * 100}%` }} />
        </div>
      </div>
    </div>
  );
}
