import { useState } from "react";
import type { PathPoint } from "../shots/use-path";

const VALUES = {
  x: { title: "position X", of: ({ x }: PathPoint) => x, text: (value: number) => `${value.toFixed(0)} px` },
  y: { title: "position Y", of: ({ y }: PathPoint) => y, text: (value: number) => `${value.toFixed(0)} px` },
  tightness: {
    title: "fill amount",
    of: ({ tightness }: PathPoint) => tightness,
    text: (value: number) => `${(value * 100).toFixed(1)}%`,
  },
  angle: {
    title: "angle",
    of: ({ angle }: PathPoint) => angle,
    text: (value: number) => `${value.toFixed(1)}°`,
  },
};
type Name = keyof typeof VALUES;
const HEIGHT = 28;
const INSET = 2;

type Props = { path: PathPoint[]; seconds: number };

/** One value of the window's path over time; at first the one that changes most relative to its range. */
export function Curve({ path, seconds }: Props) {
  const [chosen, choose] = useState<Name | null>(null);
  const name = chosen ?? liveliest(path);
  const { of, text } = VALUES[name];
  const values = path.map(of);
  const [least, most] = [Math.min(...values), Math.max(...values)];
  const height = (value: number) =>
    most === least ? HEIGHT / 2 : INSET + (1 - (value - least) / (most - least)) * (HEIGHT - 2 * INSET);
  const line = path.map((point, at) => {
    const begins = at === 0 || path[at - 1]?.shot !== point.shot;
    return `${begins ? "M" : "L"}${(point.time / seconds) * 1000} ${height(of(point))}`;
  });
  return (
    <div className="relative bg-sheet" style={{ height: HEIGHT }} data-lane="curve">
      <svg
        className="absolute inset-0 h-full w-full"
        viewBox={`0 0 1000 ${HEIGHT}`}
        preserveAspectRatio="none"
        role="img"
        aria-label={`${VALUES[name].title}, from ${text(least)} to ${text(most)}`}
      >
        <path
          d={line.join("")}
          fill="none"
          stroke="currentColor"
          strokeWidth="1.5"
          vectorEffect="non-scaling-stroke"
        />
      </svg>
      <label className="num absolute top-0 right-0 flex gap-1 bg-sheet pl-1 text-[10px] text-soft">
        {most !== least && `${text(least)} to ${text(most)}`}
        <select
          aria-label="Value of the curve"
          className="bg-transparent text-[10px]"
          value={name}
          onChange={({ target }) => choose(target.value as Name)}
        >
          {Object.entries(VALUES).map(([value, { title }]) => (
            <option key={value} value={value}>
              {title}
            </option>
          ))}
        </select>
      </label>
    </div>
  );
}

function liveliest(path: PathPoint[]): Name {
  const spread = (name: Name) => {
    const values = path.map(VALUES[name].of);
    return Math.max(...values) - Math.min(...values);
  };
  if (spread("x") > 1 || spread("y") > 1) return spread("x") >= spread("y") ? "x" : "y";
  return spread("tightness") > 0 ? "tightness" : "angle";
}
