import type { Measure } from "../../api/client";
import { toNumber } from "../../ui/exact";
import { ofShotAt, type PathPoint, pointAt } from "../shots/use-path";
import { useBench, useFrame } from "../state/use-bench";
import {
  boxOf,
  type Point,
  pathOf,
  pointOnScreen,
  type ScreenBox,
  type ScreenPoint,
  type View,
} from "./view";

type Props = {
  path: PathPoint[];
  time: number;
  /** Where a point of the picture, in source pixels from its corner, lies on the screen. */
  place: (point: Point) => ScreenPoint;
  /** The middle of the picture, in the same. */
  middle: Point;
};

const TICK = 5;
const STANDS = 0.5;

/** The way of the window in the shot that is seen: its middle with a tick each second, its first and last, its reach. */
export function PathLines({ path, time, place, middle }: Props) {
  const way = ofShotAt(path, time);
  const [first, last] = [way[0], way[way.length - 1]];
  if (!first || !last || way.every((point) => near(point, first))) return null;
  const reach = pointAt(way, time)?.reach;
  const line = way.map((point) => place(point));
  return (
    <g data-testid="path" fill="none" stroke="currentColor" className="pointer-events-none">
      {[first, last].map((end) => (
        <path key={end.time} d={pathOf(end.corners.map(place))} strokeDasharray="6 5" opacity="0.55" />
      ))}
      {reach && (
        <path
          data-testid="reach"
          d={pathOf(around(middle, reach).map(place))}
          strokeDasharray="1 4"
          opacity="0.8"
        />
      )}
      <path d={`M${line.map(({ x, y }) => `${x} ${y}`).join("L")}`} strokeWidth="1.5" />
      {seconds(first.time, last.time).map((second) => {
        const [before, after] = [pointAt(way, second - 0.02), pointAt(way, second + 0.02)].map(
          (point) => point && place(point),
        );
        const at = pointAt(way, second);
        if (!at || !before || !after) return null;
        const here = place(at);
        const long = Math.hypot(after.x - before.x, after.y - before.y) || 1;
        const across = { x: (-(after.y - before.y) / long) * TICK, y: ((after.x - before.x) / long) * TICK };
        return (
          <line
            key={second}
            x1={here.x - across.x}
            y1={here.y - across.y}
            x2={here.x + across.x}
            y2={here.y + across.y}
          />
        );
      })}
    </g>
  );
}

const near = (one: PathPoint, other: PathPoint) =>
  one.corners.every(({ x, y }, corner) => {
    const to = other.corners[corner];
    return to && Math.hypot(x - to.x, y - to.y) < STANDS;
  });

function around({ x, y }: Point, reach: Point): Point[] {
  return [
    { x: x - reach.x, y: y - reach.y },
    { x: x + reach.x, y: y - reach.y },
    { x: x + reach.x, y: y + reach.y },
    { x: x - reach.x, y: y + reach.y },
  ];
}

/** Whole seconds from the shot's beginning on. */
function seconds(first: number, last: number): number[] {
  return Array.from({ length: Math.floor(last - first) + 1 }, (_, second) => first + second);
}

/** The path over the frame, on the picture as it lies in it now. */
export function PathInFrame({ path, view }: Pick<Props, "path"> & { view: View }) {
  const { measure, time } = useBench("measure", "time");
  const onFrame = frameFrom(measure);
  const { width, height } = boxOf(measure.picture);
  return (
    <svg className="pointer-events-none absolute inset-0 h-full w-full text-chalk" aria-hidden="true">
      <PathLines
        path={path}
        time={toNumber(time)}
        place={(point) => pointOnScreen(view, onFrame(point))}
        middle={{ x: width / 2, y: height / 2 }}
      />
    </svg>
  );
}

/** Where a point of the picture, in source pixels, lies on the frame: the window's corners are those of its opening. */
function frameFrom({ window_corners: [upperLeft, upperRight, , lowerLeft], active }: Measure) {
  const opening = boxOf(active);
  if (!upperLeft || !upperRight || !lowerLeft) return () => opening;
  const across = { x: upperRight.x - upperLeft.x, y: upperRight.y - upperLeft.y };
  const down = { x: lowerLeft.x - upperLeft.x, y: lowerLeft.y - upperLeft.y };
  const area = across.x * down.y - across.y * down.x;
  return ({ x, y }: Point): Point => {
    const [right, below] = [x - upperLeft.x, y - upperLeft.y];
    return {
      x: opening.x + ((right * down.y - below * down.x) / area) * opening.width,
      y: opening.y + ((across.x * below - across.y * right) / area) * opening.height,
    };
  };
}

/** The corners of the window on screen as it moves over the source while that plays; null before the path is known. */
function usePlayedCorners({ path, place }: Pick<Props, "path" | "place">) {
  const { rate } = useBench("rate");
  return pointAt(path, useFrame() / toNumber(rate))?.corners.map(place) ?? null;
}

/** The window as it moves over the source while that plays. */
export function PlayedWindow(props: Pick<Props, "path" | "place">) {
  const corners = usePlayedCorners(props);
  if (!corners) return null;
  return <path data-testid="window" d={pathOf(corners)} fill="none" stroke="currentColor" strokeWidth="2" />;
}

type DimmedProps = Pick<Props, "path" | "place"> & {
  /** The window at the playhead and the whole source, on screen. */
  corners: ScreenPoint[];
  all: ScreenBox;
};

/** Everything outside the window, dark; it moves with the window while that plays. */
export function Dimmed({ path, place, corners, all }: DimmedProps) {
  const inside = usePlayedCorners({ path, place }) ?? corners;
  const { x, y, width, height } = all;
  return (
    <path
      data-testid="dimmed"
      d={`M${x} ${y}h${width}v${height}h${-width}z${pathOf(inside)}`}
      fillRule="evenodd"
      className="pointer-events-none fill-black/60"
    />
  );
}
