export type Shape = { key: string; name: string; width: number; height: number; own: string };

type Props = { shapes: Shape[]; lit: string | null; by: "pixels" | "height" };

const ROOM = { width: 640, height: 470 };
const PAD = 26;

/** Shapes drawn over one another about one middle: in true pixels, or all of one height. */
export function Outlines({ shapes, lit, by }: Props) {
  const sized = shapes.map((shape) => {
    const aspect = shape.width / shape.height;
    return by === "pixels" ? shape : { ...shape, width: aspect * 1000, height: 1000 };
  });
  const widest = Math.max(1, ...sized.map(({ width }) => width));
  const tallest = Math.max(1, ...sized.map(({ height }) => height));
  const scale = Math.min((ROOM.width - 2 * PAD) / widest, (ROOM.height - 2 * PAD) / tallest);
  const ordered = [...sized].sort((one, other) => Number(one.key === lit) - Number(other.key === lit));
  return (
    <svg
      viewBox={`0 0 ${ROOM.width} ${ROOM.height}`}
      className="w-full bg-well text-chalk"
      role="img"
      aria-label="The chosen formats as outlines over one another"
    >
      {ordered.map((shape, index) => {
        const [width, height] = [shape.width * scale, shape.height * scale];
        const [x, y] = [(ROOM.width - width) / 2, (ROOM.height - height) / 2];
        const strong = shape.key === lit;
        return (
          <g key={shape.key} fill="none" stroke="currentColor" opacity={lit && !strong ? 0.45 : 1}>
            <rect
              {...{ x, y, width, height }}
              strokeWidth={strong ? 2.5 : 1}
              fill={strong ? "rgb(255 255 255 / 0.08)" : "none"}
            />
            {(strong || shapes.length <= 8) && (
              <text
                className="num"
                x={x + 5}
                // One line each, since shapes of one height share their edges.
                y={y + 15 + 14 * index}
                fill="currentColor"
                stroke="none"
                fontSize="11"
                fontWeight={strong ? 600 : 400}
              >
                {shape.name} {shape.own}
              </text>
            )}
          </g>
        );
      })}
    </svg>
  );
}
