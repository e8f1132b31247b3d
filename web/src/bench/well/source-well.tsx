import { useRef } from "react";
import type { Edges, Footage } from "../../api/client";
import { shown, toNumber } from "../../ui/exact";
import { DrawBox, type Drawn } from "../following/draw-box";
import { Played } from "../playing/played";
import type { Player } from "../playing/player";
import { usePlayed, useWanted } from "../playing/use-player";
import { linesOf, wantedOf } from "../playing/wanted";
import type { PathPoint } from "../shots/use-path";
import { moment } from "../timecode";
import type { Editing } from "../use-framing";
import { type Transport, useStill } from "../use-transport";
import { BarEdges } from "./bar-edges";
import { LostHatching } from "./lost";
import { Dimmed, PathLines, PlayedWindow } from "./path-lines";
import { useSize } from "./use-size";
import { useWindow } from "./use-window";
import { boxOf, fitBox, type Point, pathOf, pointOnScreen, toScreen } from "./view";
import { cornersOf } from "./window";

const WIDTH = 960;
const NONE: PathPoint[] = [];

type Props = Editing & {
  framingId: number;
  footage: Footage;
  /** What the hand works on, where keys hold the placement. */
  hand: Editing;
  transport: Transport;
  player: Player;
  rate: string;
  /** Where given, the bars that are part of the picture can be dragged; else the window is. */
  path: PathPoint[];
  alone: boolean;
  onBars: ((edges: Edges) => void) | null;
  /** Whether what the window leaves out is dimmed. */
  dimmed: boolean;
  drawing: boolean;
  /** A box was drawn, or it was left. */
  onDrawn: (drawn: Drawn | null) => void;
};

/** The whole source as it is stored, upright and in its true shape, with the part that the frame shows. */
export function SourceWell(props: Props) {
  const { framingId, footage, measure, plan, onBars, transport, player } = props;
  const place = useRef<HTMLElement>(null);
  const size = useSize(place);
  const stored = boxOf(measure.stored);
  const picture = boxOf(measure.picture);
  const view = fitBox(size, stored, measure.pixel_aspect);
  const box = toScreen(view, stored);
  const played = usePlayed(player);
  const perSecond = toNumber(props.rate);
  const time = (useStill(transport) + 0.5) / perSecond;
  const onPicture = ({ x, y }: Point) => pointOnScreen(view, { x: picture.x + x, y: picture.y + y });
  useWanted(
    player,
    size.width > 0
      ? wantedOf(framingId, footage, [plan], linesOf(box), { source: true, alone: props.alone })
      : null,
  );
  const handle = useWindow(framingId, view, picture, props.hand);
  const corners = cornersOf(measure, handle.window, picture).map((corner) => pointOnScreen(view, corner));
  const where = { left: box.x, top: box.y, width: box.width, height: box.height };
  // As stored: the window and the bars are given in pixels before any mirroring.
  const reading = { ...plan.interpretation, mirror: footage.info.mirrored };
  const query = new URLSearchParams({
    whole: "true",
    width: String(WIDTH),
    time: moment(useStill(transport), props.rate),
    stamp: footage.stamp,
    reading: JSON.stringify(reading),
  });
  const outline = [
    { x: box.x, y: box.y },
    { x: box.x + box.width, y: box.y },
    { x: box.x + box.width, y: box.y + box.height },
    { x: box.x, y: box.y + box.height },
  ] as typeof corners;

  return (
    <section
      ref={place}
      role="application"
      aria-label={
        onBars
          ? "The whole source. Drag the edges of the picture to where its bars end."
          : "The whole source. Drag the window that the frame shows, or its corners."
      }
      // biome-ignore lint/a11y/noNoninteractiveTabindex: the drawing is handled directly, by pointer and by key
      tabIndex={0}
      className="well relative min-h-0 min-w-0 grow touch-none overflow-hidden bg-well"
      onKeyDown={onBars ? undefined : handle.onKeyDown}
    >
      <img
        alt="The whole source"
        data-testid="source"
        draggable={false}
        className="absolute max-w-none"
        style={where}
        src={`/api/footage/${footage.id}/picture?${query}`}
        onLoad={() => player.release()}
      />
      {(played.on || played.seen) && (
        <Played player={player} style={{ ...where, opacity: played.seen ? 1 : 0 }} />
      )}
      <svg
        className="absolute inset-0 h-full w-full text-chalk"
        width={size.width}
        height={size.height}
        aria-hidden="true"
      >
        <LostHatching well={size} all={outline} kept={toScreen(view, picture)} />
        {props.dimmed && !onBars && (
          <Dimmed
            {...{ transport, perSecond, corners }}
            path={played.on ? props.path : NONE}
            all={box}
            place={onPicture}
          />
        )}
        <rect {...box} fill="none" stroke="currentColor" opacity="0.6" />
        {!onBars && (
          <PathLines
            path={props.path}
            time={time}
            place={onPicture}
            middle={{ x: picture.width / 2, y: picture.height / 2 }}
          />
        )}
        {!onBars && played.on && props.path.length > 0 && (
          <PlayedWindow {...{ transport, path: props.path, perSecond }} place={onPicture} />
        )}
        {!onBars && !(played.on && props.path.length > 0) && (
          <>
            <path
              data-testid="window"
              d={pathOf(corners)}
              className="cursor-move"
              fill="transparent"
              stroke="currentColor"
              strokeWidth="2"
              {...handle.move}
            />
            {corners.map((corner, index) => (
              <rect
                // biome-ignore lint/suspicious/noArrayIndexKey: corners stay in their order
                key={index}
                data-testid="window-corner"
                className="grip cursor-nwse-resize"
                x={corner.x - 6}
                y={corner.y - 6}
                width="12"
                height="12"
                fill="currentColor"
                {...handle.size}
              />
            ))}
          </>
        )}
        {onBars && <BarEdges {...{ view, stored, picture }} onBars={onBars} />}
      </svg>
      {props.drawing && <DrawBox box={box} onDrawn={props.onDrawn} onLeave={() => props.onDrawn(null)} />}
      <p
        className="num pointer-events-none absolute flex justify-between gap-4 whitespace-nowrap text-chalk"
        style={{ left: box.x, top: box.y - 25, minWidth: Math.max(320, box.width) }}
      >
        <span className="bg-well/85 px-1">
          stored {shown(measure.stored.width, 0)} × {shown(measure.stored.height, 0)}
        </span>
        <span className="bg-well/85 px-1">
          {onBars
            ? `picture ${shown(measure.picture.width, 1)} × ${shown(measure.picture.height, 1)}`
            : `window ${shown(handle.window.width, 1)} × ${shown(handle.window.height, 1)}`}
        </span>
      </p>
    </section>
  );
}
