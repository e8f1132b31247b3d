import { useLayoutEffect } from "react";
import type { Footage, Plan } from "../../api/client";
import { useChoices } from "../../api/use-choices";
import { ProblemNote } from "../../ui/problem-note";
import { useRested } from "../../ui/use-rested";
import { designOf } from "../editor/scope";
import { Played } from "../playing/played";
import type { Player } from "../playing/player";
import { PlayingNote } from "../playing/playing-note";
import { usePlayed, useShows, useWanted } from "../playing/use-player";
import { linesOf, wantedOf } from "../playing/wanted";
import { moment } from "../timecode";
import { usePreview, wellWaits } from "../use-preview";
import { type Transport, useDriven, useSpeed, useStill } from "../use-transport";
import { BeforeAfter, untreated } from "./before-after";
import type { ScreenBox } from "./view";

const WIDEST = 1600;
/** Width of pictures made one by one while playing, where no stream can be played. */
const PLAYING_WIDTH = 640;
/** Width of pictures made during a drag; full size follows once it rests. */
const MOVING_WIDTH = 512;
const RESTS_MS = 160;

export type ComposedProps = {
  framingId: number;
  plan: Plan;
  footage: Footage;
  transport: Transport;
  player: Player;
  box: ScreenBox;
  /** Whether the untreated picture is shown beside an edge. */
  compared: boolean;
  /** As wide as it is composed at most, where that is more than usual. */
  most?: number | undefined;
  /** Whether only the shot that is seen plays. */
  alone: boolean;
};

/** The composed frame at the moment that is shown, or as it plays. */
export function Composed({
  framingId,
  plan,
  footage,
  transport,
  player,
  box,
  compared,
  most: widest = WIDEST,
  alone,
}: ComposedProps) {
  const time = moment(useStill(transport), footage.timing.rate);
  const byPictures = useSpeed(transport) !== 0;
  const driven = useDriven(transport);
  const choices = useChoices();
  const played = usePlayed(player);
  const pixels = Math.min(widest, Math.round(box.width * window.devicePixelRatio));
  const moving = useMoving(plan);
  const most = byPictures ? PLAYING_WIDTH : moving ? MOVING_WIDTH : pixels;
  const width = Math.max(16, Math.min(most, pixels));
  const there = box.width > 0;
  const preview = usePreview("well", there && !driven ? { framingId, plan, time, width } : null);
  const waits = !driven && (moving || !preview || preview.awaited);
  useLayoutEffect(() => {
    wellWaits.setState({ waits });
    return () => wellWaits.setState({ waits: false });
  }, [waits]);
  useWanted(
    player,
    there
      ? wantedOf(framingId, footage, compared ? [plan, untreated(plan, choices)] : [plan], linesOf(box), {
          alone,
        })
      : null,
  );
  const shows = useShows(player, preview?.time === time);
  const place = { left: box.x, top: box.y, width: box.width, height: box.height };
  return (
    <>
      {there && !preview && (
        <p
          role="status"
          className="awaited absolute grid place-items-center bg-chalk/25 text-chalk"
          style={place}
        >
          Composing the picture …
        </p>
      )}
      {preview?.url && (
        <img
          data-testid="composed"
          alt="The composed frame"
          aria-busy={waits}
          draggable={false}
          className={`absolute max-w-none ${preview.awaited && !moving && !byPictures ? "awaited" : ""}`}
          style={place}
          src={preview.url}
        />
      )}
      {shows && <Played player={player} style={{ ...place, opacity: played.seen ? 1 : 0 }} />}
      {compared && <BeforeAfter {...{ framingId, plan, width, time, box }} player={shows ? player : null} />}
      <p className="num absolute top-3 right-4 z-10 bg-well/85 px-1.5 text-chalk">
        <PlayingNote player={player} />
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
