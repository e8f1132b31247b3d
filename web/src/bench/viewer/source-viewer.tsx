import { useRef } from "react";
import type { Measure } from "../../api/client";
import { clipPicture } from "../../api/pictures";
import { shown, toNumber } from "../../ui/exact";
import { ProblemNote } from "../../ui/problem-note";
import { DrawBox, type Drawn } from "../following/draw-box";
import { useInterpretation } from "../panels/source/use-interpretation";
import { Played } from "../playing/played";
import { linesOf, usePlayable } from "../playing/use-playable";
import { usePath } from "../shots/use-path";
import { useBench, usePlayed, useStill } from "../state/use-bench";
import { moment } from "../timecode";
import { useViewed } from "../use-viewed";
import { BarEdges } from "./bar-edges";
import { LostHatching } from "./lost";
import { Dimmed, PathLines, PlayedWindow } from "./path-lines";
import { useSize } from "./use-size";
import { useWindow } from "./use-window";
import { type Box, boxOf, fitBox, type Point, pathOf, pointOnScreen, toScreen } from "./view";
import { cornersOf } from "./window";

const WIDTH = 960;
const ON_BARS = "The whole source. Drag the edges of the picture to where its bars end.";
const ON_WINDOW = "The whole source. Drag the window that the frame shows, or its corners.";

/** The whole source as it is stored, upright and in its true shape, with the part that the frame shows. */
export function SourceViewer() {
  const { measure, shownPlan, player } = useBench("measure", "shownPlan", "player");
  const { step, drawingBox, show } = useBench("step", "drawingBox", "show");
  const drawn = useFollowBox();
  const place = useRef<HTMLElement>(null);
  const size = useSize(place);
  const stored = boxOf(measure.stored);
  const picture = boxOf(measure.picture);
  const view = fitBox(size, stored, measure.pixel_aspect);
  const box = toScreen(view, stored);
  const played = usePlayed();
  const { viewed } = useViewed(shownPlan, null);
  usePlayable([shownPlan], size.width > 0 ? linesOf(box) : 0, { source: true });
  const window = useWindow(view, picture);
  const onBars = step === "source";
  const where = { left: box.x, top: box.y, width: box.width, height: box.height };
  return (
    <section
      ref={place}
      role="application"
      aria-label={onBars ? ON_BARS : ON_WINDOW}
      // biome-ignore lint/a11y/noNoninteractiveTabindex: the drawing is handled directly, by pointer and by key
      tabIndex={0}
      className="well relative min-h-0 min-w-0 grow touch-none overflow-hidden bg-well"
      onKeyDown={onBars ? undefined : window.onKeyDown}
    >
      <img
        alt="The whole source"
        data-testid="source"
        draggable={false}
        className="absolute max-w-none"
        style={where}
        src={useSourcePicture()}
        onLoad={() => player.release()}
      />
      {(played.on || played.seen) && <Played style={{ ...where, opacity: played.seen ? 1 : 0 }} />}
      <svg
        className="absolute inset-0 h-full w-full text-chalk"
        width={size.width}
        height={size.height}
        aria-hidden="true"
      >
        <LostHatching viewer={size} all={outlineOf(box)} kept={toScreen(view, picture)} />
        <rect {...box} fill="none" stroke="currentColor" opacity="0.6" />
        {onBars && <Bars {...{ view, stored, picture }} />}
        {!onBars && <WindowLines {...{ view, picture, box, window }} />}
      </svg>
      {drawingBox && <DrawBox box={box} onDrawn={drawn} onLeave={() => show({ drawingBox: false })} />}
      <Sizes
        box={box}
        stored={measure.stored}
        words={onBars ? `picture ${sizeWords(measure.picture, 1)}` : `window ${sizeWords(window.window, 1)}`}
      />
      <div className="absolute top-3 right-3 left-3 z-10">
        <ProblemNote error={viewed?.error} />
      </div>
    </section>
  );
}

type SizesProps = { box: Box; stored: Measure["stored"]; words: string };

/** The size of the stored picture, and of the part that is handled, above the picture. */
const Sizes = ({ box, stored, words }: SizesProps) => (
  <p
    className="num pointer-events-none absolute flex justify-between gap-4 whitespace-nowrap text-chalk"
    style={{ left: box.x, top: box.y - 25, minWidth: Math.max(320, box.width) }}
  >
    <span className="bg-well/85 px-1">stored {sizeWords(stored, 0)}</span>
    <span className="bg-well/85 px-1">{words}</span>
  </p>
);

const sizeWords = ({ width, height }: { width: string; height: string }, decimals: number) =>
  `${shown(width, decimals)} × ${shown(height, decimals)}`;

const outlineOf = ({ x, y, width, height }: ReturnType<typeof toScreen>) =>
  [
    { x, y },
    { x: x + width, y },
    { x: x + width, y: y + height },
    { x, y: y + height },
  ] as ReturnType<typeof pointOnScreen>[];

/** The address of the source's picture at the playhead. The window and the bars are in pixels before any mirroring. */
function useSourcePicture(): string {
  const { footage, shownPlan, rate } = useBench("footage", "shownPlan", "rate");
  const interpretation = { ...shownPlan.interpretation, mirror: footage.info.mirrored };
  return clipPicture(footage, interpretation, { whole: true, width: WIDTH, time: moment(useStill(), rate) });
}

/** Follow the contents of a drawn box. */
function useFollowBox() {
  const { plan, time, follow, show } = useBench("plan", "time", "follow", "show");
  return (drawn: Drawn) => {
    show({ drawingBox: false });
    const others = (plan.motion.follow?.subjects ?? []).filter((subject) => !subject.drawn);
    follow({ subjects: [...others, { ...drawn, time, drawn: true, until: null }] }, "Follow the box");
  };
}

type BarsProps = Omit<Parameters<typeof BarEdges>[0], "onBars">;

function Bars(props: BarsProps) {
  const { set } = useInterpretation();
  return <BarEdges {...props} onBars={(burned_in_bars) => set({ burned_in_bars })} />;
}

type LinesProps = {
  view: ReturnType<typeof fitBox>;
  picture: ReturnType<typeof boxOf>;
  box: ReturnType<typeof toScreen>;
  window: ReturnType<typeof useWindow>;
};

/** The window that the frame shows, with corners to drag, and its path. */
function WindowLines({ view, picture, box, window }: LinesProps) {
  const { measure, rate, dimmed, following } = useBench("measure", "rate", "dimmed", "following");
  const played = usePlayed();
  const path = usePath();
  const time = (useStill() + 0.5) / toNumber(rate);
  const onPicture = ({ x, y }: Point) => pointOnScreen(view, { x: picture.x + x, y: picture.y + y });
  const corners = cornersOf(measure, window.window, picture).map((corner) => pointOnScreen(view, corner));
  const plays = played.on && path.length > 0;
  const middle = { x: picture.width / 2, y: picture.height / 2 };
  return (
    <>
      {dimmed && following && (
        <Dimmed path={played.on ? path : []} all={box} corners={corners} place={onPicture} />
      )}
      <PathLines {...{ path, time, middle }} place={onPicture} />
      {plays ? (
        <PlayedWindow path={path} place={onPicture} />
      ) : (
        <>
          <path
            data-testid="window"
            d={pathOf(corners)}
            className="cursor-move"
            fill="transparent"
            stroke="currentColor"
            strokeWidth="2"
            {...window.move}
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
              {...window.size}
            />
          ))}
        </>
      )}
    </>
  );
}
