import type { Alternative } from "../../api/client";
import { Button } from "../../ui/button";
import { shown, toNumber } from "../../ui/exact";
import { ProblemNote } from "../../ui/problem-note";
import { Played } from "../playing/played";
import { useShowsPlayed } from "../playing/use-playable";
import { useBench } from "../state/use-bench";
import { usePreview } from "../use-preview";

type Props = {
  way: Alternative;
  /** Which of all that are played together. */
  tile: number;
  marked: boolean;
  onChoose: () => void;
  onMark: () => void;
  onLeaveOut?: () => void;
};

const WIDTH = 560;

/** One alternative, large, with what it costs. */
export function Way({ way, tile, marked, onChoose, onMark, onLeaveOut }: Props) {
  const { time } = useBench("time");
  const preview = usePreview({ plan: way.design, time, width: WIDTH });
  const shows = useShowsPlayed(preview?.time === time);
  const { cost, summary } = way.measure;
  return (
    <li className={`rounded border-2 bg-sheet ${marked ? "border-ochre" : "border-rule"}`}>
      <div className="relative flex h-52 items-center justify-center bg-well p-2">
        {preview?.picture && <img alt={way.name} className="max-h-full max-w-full" src={preview.picture} />}
        {shows && <Played tile={tile} className="inset-2" fit="object-contain" />}
      </div>
      <ProblemNote error={preview?.error} />
      <div className="grid gap-1 px-3 py-2">
        <p className="flex items-baseline justify-between gap-2">
          <span className="font-semibold">{way.name}</span>
          <span className={`num ${summary.loses ? "text-rust" : "text-moss"}`}>{summary.lost}</span>
        </p>
        <p className="num text-soft">
          covers {shown(cost.covered_percent, 0)}%, scaled to {shown(100 * toNumber(cost.enlargement), 0)}%
        </p>
        <div className="flex items-center gap-3">
          <Button look="main" onClick={onChoose}>
            Choose
          </Button>
          <Button look="link" aria-pressed={marked} onClick={onMark}>
            {marked ? "Do not compare" : "Compare"}
          </Button>
          <span className="grow" />
          {onLeaveOut && (
            <Button look="subtle" onClick={onLeaveOut}>
              Leave out
            </Button>
          )}
        </div>
      </div>
    </li>
  );
}
