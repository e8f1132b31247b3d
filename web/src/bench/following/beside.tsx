import { useEffect, useRef } from "react";
import type { Footage, Measure, Plan } from "../../api/client";
import { aspectOf } from "../../frames/aspect";
import { toNumber } from "../../ui/exact";
import type { Player } from "../playing/player";
import { usePlayed } from "../playing/use-player";
import { type PathPoint, pointAt } from "../shots/use-path";
import { moment } from "../timecode";
import { usePreview } from "../use-preview";
import { type Transport, useFrame, useStill } from "../use-transport";
import { boxOf } from "../well/view";

const WIDTH = 480;
/** A window that is as wide as that has room for the result beside the source. */
const ROOM = "(min-width: 1440px)";
const SHARP = 2;

export const hasRoom = () => window.matchMedia(ROOM).matches;

type Props = {
  framingId: number;
  footage: Footage;
  plan: Plan;
  measure: Measure;
  path: PathPoint[];
  transport: Transport;
  player: Player;
};

/** What comes of the window, beside the source that it moves over: the composed frame, and while it plays what the window sees. */
export function Beside({ framingId, footage, plan, measure, path, transport, player }: Props) {
  const { rate } = footage.timing;
  const played = usePlayed(player);
  const time = moment(useStill(transport), rate);
  const preview = usePreview("beside", played.on ? null : { framingId, plan, time, width: WIDTH });
  const aspect = aspectOf(plan.frame);
  return (
    <section
      aria-label="Result"
      className="well grid w-[300px] shrink-0 content-center justify-items-center gap-2 border-l border-rule bg-well p-4"
    >
      <div className="relative w-full" style={{ aspectRatio: aspect }}>
        {preview?.url && (
          <img alt="Result" draggable={false} className="absolute inset-0 h-full w-full" src={preview.url} />
        )}
        {played.on && <Seen {...{ measure, path, transport, player }} perSecond={toNumber(rate)} />}
      </div>
      <p className="num text-chalk">
        {plan.frame.name} {plan.frame.width} × {plan.frame.height}
      </p>
    </section>
  );
}

type SeenProps = Pick<Props, "measure" | "path" | "transport" | "player"> & { perSecond: number };

/** What the window sees of the source that plays. */
function Seen({ measure, path, transport, player, perSecond }: SeenProps) {
  const place = useRef<HTMLCanvasElement>(null);
  const frame = useFrame(transport);
  useEffect(() => {
    const canvas = place.current;
    const pen = canvas?.getContext("2d", { alpha: false });
    const point = pointAt(path, frame / perSecond);
    const { video } = player;
    if (!canvas || !pen || !point || !video.videoWidth) return;
    const [stored, picture] = [boxOf(measure.stored), boxOf(measure.picture)];
    const across = point.corners.map(({ x }) => ((x + picture.x) / stored.width) * video.videoWidth);
    const down = point.corners.map(({ y }) => ((y + picture.y) / stored.height) * video.videoHeight);
    const [left, top] = [Math.min(...across), Math.min(...down)];
    const [width, height] = [Math.max(...across) - left, Math.max(...down) - top];
    const box = canvas.getBoundingClientRect();
    const size = { width: Math.round(box.width * SHARP), height: Math.round(box.height * SHARP) };
    if (canvas.width !== size.width || canvas.height !== size.height) Object.assign(canvas, size);
    pen.drawImage(video, left, top, width, height, 0, 0, canvas.width, canvas.height);
  }, [frame, measure, path, perSecond, player]);
  return <canvas ref={place} data-testid="beside-played" className="absolute inset-0 h-full w-full" />;
}
