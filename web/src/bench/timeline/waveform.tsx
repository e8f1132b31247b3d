import { useEffect, useRef } from "react";
import type { Levels } from "./use-levels";

type Props = { levels: Levels; start: number; end: number };

const COLUMNS = 960;
const ROWS = 24;

/** The sound of a part of a clip, in seconds. */
export function Waveform({ levels, start, end }: Props) {
  const place = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const pen = place.current?.getContext("2d");
    if (!pen) return;
    pen.clearRect(0, 0, COLUMNS, ROWS);
    pen.fillStyle = getComputedStyle(pen.canvas).color;
    const step = (end - start) / COLUMNS;
    for (let column = 0; column < COLUMNS; column++) {
      const height = levels.between(start + column * step, start + (column + 1) * step) * ROWS;
      pen.fillRect(column, ROWS - height, 1, height);
    }
  }, [levels, start, end]);
  return <canvas ref={place} width={COLUMNS} height={ROWS} className="h-full w-full text-moss" />;
}
