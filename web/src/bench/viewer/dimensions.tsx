import type { Measure } from "../../api/client";
import { shown, toNumber } from "../../ui/exact";
import { useBench } from "../state/use-bench";
import { LostHatching } from "./lost";
import {
  boxOf,
  frameOnScreen,
  pointOnScreen,
  type ScreenBox,
  type ScreenPoint,
  toScreen,
  type View,
} from "./view";

const TICK = 14;
/** How far from the frame its dimension lines run, and how far their ends reach toward it and past them. */
const GAP = 17;
const TOWARD = 13;
const PAST = 6;
const SMALLEST_LABELLED = 30;

type Segment = { from: number; to: number; label: string };
type Props = { view: View; size: { width: number; height: number } };

/** The numbers of a framing, drawn on it as a draughtsman would. */
export function Dimensions({ view, size }: Props) {
  const { measure, shownPlan } = useBench("measure", "shownPlan");
  const { frame } = shownPlan;
  const active = boxOf(measure.drawn);
  const frameBox = frameOnScreen(view, frame);
  const corners = measure.corners.map((corner) => pointOnScreen(view, corner));
  return (
    <svg
      className="pointer-events-none absolute inset-0 select-none text-chalk"
      width={size.width}
      height={size.height}
      aria-hidden="true"
    >
      <defs>
        <marker
          id="arrow"
          viewBox="0 0 8 8"
          refX="7"
          refY="4"
          markerWidth="8"
          markerHeight="8"
          orient="auto-start-reverse"
        >
          <path d="M1 1 L7 4 L1 7" fill="none" stroke="currentColor" />
        </marker>
      </defs>
      <LostHatching viewer={size} all={corners} kept={toScreen(view, active)} />
      <rect {...frameBox} fill="none" stroke="currentColor" strokeWidth="1" opacity="0.9" />
      {(active.width !== frame.width || active.height !== frame.height) && (
        <rect
          {...toScreen(view, active)}
          fill="none"
          stroke="currentColor"
          strokeDasharray="2 4"
          opacity="0.9"
        />
      )}
      <CornerTicks corners={corners} />
      <Chain
        segments={segmentsAcross(view, measure, frameBox)}
        at={frameBox.y + frameBox.height + GAP}
        across
      />
      <Chain segments={segmentsDown(view, measure, frameBox)} at={frameBox.x - GAP} across={false} />
    </svg>
  );
}

function segmentsAcross(view: View, { bars, seen }: Measure, frame: ScreenBox): Segment[] {
  const [left, right] = [toNumber(bars.left), toNumber(bars.right)];
  return segments(frame.x, frame.x + frame.width, left * view.across, right * view.across, [
    bars.left,
    left || right ? seen.width : toFull(frame.width / view.across),
    bars.right,
  ]);
}

function segmentsDown(view: View, { bars, seen }: Measure, frame: ScreenBox): Segment[] {
  const [top, bottom] = [toNumber(bars.top), toNumber(bars.bottom)];
  return segments(frame.y, frame.y + frame.height, top * view.down, bottom * view.down, [
    bars.top,
    top || bottom ? seen.height : toFull(frame.height / view.down),
    bars.bottom,
  ]);
}

const toFull = (length: number) => String(Math.round(length));

function segments(from: number, to: number, first: number, last: number, lengths: string[]): Segment[] {
  const [before = "0", middle = "0", after = "0"] = lengths.map((length) => shown(length));
  return [
    { from, to: from + first, label: before },
    { from: from + first, to: to - last, label: middle },
    { from: to - last, to, label: after },
  ].filter((segment) => segment.to - segment.from > 0.5);
}

/** Dimension lines end to end, each with its length. A length too long for its line stands beyond it. */
function Chain({ segments, at, across }: { segments: Segment[]; at: number; across: boolean }) {
  const ends = [...segments.map(({ from }) => from), ...segments.slice(-1).map(({ to }) => to)];
  const point = (along: number, beside: number) =>
    across ? { x: along, y: beside } : { x: beside, y: along };
  return (
    <g stroke="currentColor" fill="currentColor">
      {ends.map((end, index) => {
        const { x: x1, y: y1 } = point(end, across ? at - TOWARD : at - PAST);
        const { x: x2, y: y2 } = point(end, across ? at + PAST : at + TOWARD);
        // biome-ignore lint/suspicious/noArrayIndexKey: ends stay in their order
        return <line key={index} {...{ x1, y1, x2, y2 }} opacity="0.55" />;
      })}
      {segments.map(({ from, to, label }, index) => {
        const small = to - from < SMALLEST_LABELLED + label.length * 7;
        const { x: x1, y: y1 } = point(from + 1, at);
        const { x: x2, y: y2 } = point(to - 1, at);
        const middle = point((from + to) / 2, small && across ? at + 16 : at);
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: segments stay in their order
          <g key={index}>
            <line {...{ x1, y1, x2, y2 }} markerStart="url(#arrow)" markerEnd="url(#arrow)" />
            <text
              className="num"
              stroke="var(--color-well)"
              strokeWidth={small && across ? 0 : 9}
              paintOrder="stroke"
              textAnchor="middle"
              dominantBaseline="central"
              transform={`translate(${middle.x} ${middle.y})${across ? "" : " rotate(-90)"}`}
            >
              {label}
            </text>
          </g>
        );
      })}
    </g>
  );
}

/** Small angles at the four corners of the picture, along its edges. */
function CornerTicks({ corners }: { corners: ScreenPoint[] }) {
  const toward = (from: ScreenPoint, to: ScreenPoint) => {
    const length = Math.hypot(to.x - from.x, to.y - from.y) || 1;
    return `${from.x + ((to.x - from.x) / length) * TICK} ${from.y + ((to.y - from.y) / length) * TICK}`;
  };
  return (
    <g fill="none" stroke="currentColor" strokeWidth="2">
      {corners.map((corner, index) => {
        const before = corners[(index + 3) % 4] ?? corner;
        const after = corners[(index + 1) % 4] ?? corner;
        return (
          <path
            // biome-ignore lint/suspicious/noArrayIndexKey: corners stay in their order
            key={index}
            d={`M${toward(corner, before)} L${corner.x} ${corner.y} L${toward(corner, after)}`}
          />
        );
      })}
    </g>
  );
}
