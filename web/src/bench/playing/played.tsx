import { useEffect, useRef } from "react";
import { useBench, usePlayed } from "../state/use-bench";

type Props = {
  /** Which of the pictures that are played side by side. */
  tile?: number;
  className?: string;
  style?: React.CSSProperties;
  /** How it lies where it is put: over all of it, or within it in its own shape. */
  fit?: "object-fill" | "object-contain";
};

/** What plays, or the last of it. */
export function Played({ tile = 0, className = "", style, fit = "object-fill" }: Props) {
  const { head } = usePlayed();
  const single = !head || head.across * head.down === 1;
  return (
    <div
      className={`pointer-events-none absolute ${className}`}
      style={style}
      data-testid={tile ? undefined : "played"}
    >
      {tile === 0 && <Film fit={fit} visible={single} />}
      {!single && <Tile {...{ tile, fit }} />}
    </div>
  );
}

function Film({ fit, visible }: { fit: string; visible: boolean }) {
  const { player } = useBench("player");
  const place = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const { video } = player;
    video.className = `absolute inset-0 h-full w-full ${fit}`;
    place.current?.append(video);
    // Taken out of the page it would stop.
    if (player.store.getState().on && video.readyState > video.HAVE_CURRENT_DATA) video.play();
    return () => video.remove();
  }, [player, fit]);
  return <div ref={place} className={visible ? "" : "opacity-0"} />;
}

/** One of the pictures that are played side by side, cut out of them all. */
function Tile({ tile, fit }: { tile: number; fit: string }) {
  const { player } = useBench("player");
  const place = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const { video } = player;
    const pen = place.current?.getContext("2d", { alpha: false });
    let request = 0;
    function draw() {
      const { head } = player.store.getState();
      if (!pen || !head || !video.videoWidth) return;
      const [wide, tall] = [video.videoWidth / head.across, video.videoHeight / head.down];
      if (pen.canvas.width !== wide || pen.canvas.height !== tall)
        Object.assign(pen.canvas, { width: wide, height: tall });
      const [left, top] = [(tile % head.across) * wide, Math.floor(tile / head.across) * tall];
      pen.drawImage(video, left, top, wide, tall, 0, 0, wide, tall);
    }
    function next() {
      draw();
      request = video.requestVideoFrameCallback(next);
    }
    next();
    return () => video.cancelVideoFrameCallback(request);
  }, [player, tile]);
  return <canvas ref={place} className={`absolute inset-0 h-full w-full ${fit}`} />;
}
