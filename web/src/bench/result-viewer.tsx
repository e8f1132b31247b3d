import { useRef, useState } from "react";
import type { Render } from "../api/client";
import { toNumber } from "../ui/exact";
import { ResultDivider } from "./result-divider";
import { useBench, usePlayed } from "./state/use-bench";
import { useExpectedOverlay } from "./use-expected-overlay";
import { useFilm } from "./use-film";
import { useRange } from "./use-range";
import { useViewed } from "./use-viewed";

const WIDTH = 1280;

/** The finished file, playing in place of the composed frame, and the expected frame to compare with. */
export function ResultViewer({ render }: { render: Render }) {
  const { rate, shownPlan } = useBench("rate", "shownPlan");
  const { marks } = useRange();
  useViewed(shownPlan, null);
  const video = useRef<HTMLVideoElement>(null);
  const [failed, setFailed] = useState(false);
  const shown = useRef<HTMLImageElement>(null);
  const { time, setTime, held, hold, divided, divide } = useExpectedOverlay(video);
  const plays = render.playable && !failed;
  const { muted } = usePlayed();
  useFilm(video, { ...marks, rate, seconds: render.seconds });
  const shape = "max-h-full max-w-full outline outline-chalk/80";
  const picture = (asked: boolean) =>
    `/api/renders/${render.id}/picture?time=${time.toFixed(4)}&width=${WIDTH}&asked=${asked}`;

  if (render.cleared) {
    return (
      <Frame>
        <p className="rounded bg-night px-3 py-2 text-chalk">
          This file was deleted by the project's keep setting. Render again to see it.
        </p>
      </Frame>
    );
  }
  return (
    <Frame>
      <div className="relative flex min-h-0 w-full grow items-center justify-center">
        {plays ? (
          <video
            key={render.id}
            ref={video}
            data-testid="result"
            className={`${shape} ${held ? "invisible" : ""}`}
            muted={muted}
            playsInline
            preload="metadata"
            src={`/api/renders/${render.id}/file`}
            onError={() => setFailed(true)}
          />
        ) : (
          <img
            ref={shown}
            alt="The finished file"
            data-testid="result"
            className={`${shape} ${held ? "invisible" : ""}`}
            src={picture(false)}
          />
        )}
        {divided && !held && <ResultDivider over={plays ? video : shown} asked={picture(true)} />}
        {held && (
          <div className="absolute inset-0 flex items-center justify-center">
            <img alt="Expected" className={shape} src={picture(true)} />
          </div>
        )}
      </div>
      <div className="num mt-3 flex w-full items-center gap-4 text-chalk">
        <button
          type="button"
          className={`px-1.5 py-0.5 ${held ? "bg-chalk text-night" : "bg-well/85 hover:underline"}`}
          aria-pressed={held}
          onPointerDown={() => hold(true)}
          onPointerUp={() => hold(false)}
          onPointerLeave={() => hold(false)}
        >
          {held ? "Expected" : "Show expected (hold F)"}
        </button>
        <button
          type="button"
          className={`px-1.5 py-0.5 ${divided ? "bg-chalk text-night" : "bg-well/85 hover:underline"}`}
          aria-pressed={divided}
          onClick={divide}
        >
          Split view (D)
        </button>
        {!plays && (
          <input
            type="range"
            aria-label="Playhead of the file"
            className="grow accent-ochre"
            min={0}
            max={Math.max(0, render.seconds - 1 / toNumber(rate))}
            step="any"
            value={time}
            onChange={({ target }) => setTime(Number(target.value))}
          />
        )}
        {!plays && <span>Browsers do not play {render.file.split(",")[0]}: frame by frame.</span>}
      </div>
    </Frame>
  );
}

function Frame({ children }: { children: React.ReactNode }) {
  return (
    <section
      className="well flex min-h-0 min-w-0 grow flex-col items-center justify-center bg-well p-8 pb-3"
      aria-label="The finished file"
    >
      {children}
    </section>
  );
}
