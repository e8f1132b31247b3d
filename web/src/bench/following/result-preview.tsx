import { useEffect, useRef } from "react";
import { aspectOf } from "../../frames/aspect";
import { toNumber } from "../../ui/exact";
import { pointAt, usePath } from "../shots/use-path";
import { useBench, useFrame, usePlayed, useStill } from "../state/use-bench";
import { moment } from "../timecode";
import { usePreview } from "../use-preview";
import { boxOf } from "../viewer/view";

const WIDTH = 480;
/** A window that is as wide as that has room for the result beside the source. */
const ROOM = "(min-width: 1440px)";
const SHARP = 2;

export const useRoomBeside = () => window.matchMedia(ROOM).matches;

/** The composed frame beside the source that its window moves over; while it plays, what the window sees. */
export function ResultPreview() {
  const { shownPlan: plan, rate } = useBench("shownPlan", "rate");
  const played = usePlayed();
  const time = moment(useStill(), rate);
  const preview = usePreview(played.on ? null : { plan, time, width: WIDTH });
  const aspect = aspectOf(plan.frame);
  return (
    <section
      aria-label="Result"
      className="well grid w-[300px] shrink-0 content-center justify-items-center gap-2 border-l border-rule bg-well p-4"
    >
      <div className="relative w-full" style={{ aspectRatio: aspect }}>
        {preview?.picture && (
          <img
            alt="Result"
            draggable={false}
            className="absolute inset-0 h-full w-full"
            src={preview.picture}
          />
        )}
        {played.on && <PlayedInWindow />}
      </div>
      <p className="num text-chalk">
        {plan.frame.name} {plan.frame.width} × {plan.frame.height}
      </p>
    </section>
  );
}

/** The part of the playing source that the window shows. */
function PlayedInWindow() {
  const { measure, player, rate } = useBench("measure", "player", "rate");
  const path = usePath();
  const perSecond = toNumber(rate);
  const frame = useFrame();
  const place = useRef<HTMLCanvasElement>(null);
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
