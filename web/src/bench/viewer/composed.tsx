import { useLayoutEffect } from "react";
import type { Plan } from "../../api/client";
import { useChoices } from "../../api/use-choices";
import { ProblemNote } from "../../ui/problem-note";
import { useRested } from "../../ui/use-rested";
import { designOf } from "../editor/scope";
import { Played } from "../playing/played";
import { PlayingNote } from "../playing/playing-note";
import { linesOf, usePlayable, useShowsPlayed } from "../playing/use-playable";
import { useActivity } from "../state/activity";
import { useBench, useDriven, usePlayed, useSpeed } from "../state/use-bench";
import { useViewed } from "../use-viewed";
import { BeforeAfter, untreated } from "./before-after";
import type { ScreenBox } from "./view";

const WIDEST = 1600;
/** Width of pictures made one by one while playing, where no stream can be played. */
const PLAYING_WIDTH = 640;
/** Width of pictures made during a drag; full size follows once it rests. */
const MOVING_WIDTH = 512;
const RESTS_MS = 160;

type Props = {
  /** The plan to show: the one on the bench, or that one without its surround. */
  plan: Plan;
  box: ScreenBox;
  /** The widest that the frame is composed, if it is wider than usual. */
  widest?: number | undefined;
};

/** The composed frame at the playhead, or as it plays. */
export function Composed({ plan, box, widest = WIDEST }: Props) {
  const { beforeAfter, fullScreen } = useBench("beforeAfter", "fullScreen");
  const compares = beforeAfter && !fullScreen;
  const byPictures = useSpeed() !== 0;
  const driven = useDriven();
  const choices = useChoices();
  const played = usePlayed();
  const pixels = Math.min(widest, Math.round(box.width * window.devicePixelRatio));
  const moving = useMoving(plan);
  const most = byPictures ? PLAYING_WIDTH : moving ? MOVING_WIDTH : pixels;
  const width = Math.max(16, Math.min(most, pixels));
  const there = box.width > 0;
  const { viewed: preview, time } = useViewed(plan, there && !driven ? width : null, !moving);
  const waits = !driven && (moving || !preview || preview.awaited);
  useLayoutEffect(() => {
    useActivity.setState({ viewerWaits: waits });
    return () => useActivity.setState({ viewerWaits: false });
  }, [waits]);
  usePlayable(compares ? [plan, untreated(plan, choices)] : [plan], there ? linesOf(box) : 0);
  const shows = useShowsPlayed(preview?.time === time);
  const place = { left: box.x, top: box.y, width: box.width, height: box.height };
  return (
    <>
      {there && !preview?.picture && !preview?.error && (
        <p
          role="status"
          className="awaited absolute grid place-items-center bg-chalk/25 text-chalk"
          style={place}
        >
          Composing the picture …
        </p>
      )}
      {preview?.picture && (
        <img
          data-testid="composed"
          alt="The composed frame"
          aria-busy={waits}
          draggable={false}
          className={`absolute max-w-none ${preview.awaited && !moving && !byPictures ? "awaited" : ""}`}
          style={place}
          src={preview.picture}
        />
      )}
      {shows && <Played style={{ ...place, opacity: played.seen ? 1 : 0 }} />}
      {compares && <BeforeAfter {...{ plan, width, time, box }} plays={shows} />}
      <p className="num absolute top-3 right-4 z-10 bg-well/85 px-1.5 text-chalk">
        <PlayingNote />
      </p>
      <div className="absolute top-3 right-3 left-3 z-10 grid gap-2">
        <ProblemNote error={preview?.error ?? played.error} />
      </div>
    </>
  );
}

/** Whether a plan has changed a moment ago, as it does while something is dragged. */
function useMoving(plan: Plan): boolean {
  const now = JSON.stringify(designOf(plan));
  const rested = useRested(now, RESTS_MS);
  return rested !== null && rested !== now;
}
