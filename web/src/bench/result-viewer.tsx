import { type ComponentProps, type ReactNode, useRef, useState } from "react";
import type { Render } from "../api/client";
import { toNumber } from "../ui/exact";
import { ResultDivider } from "./result-divider";
import { useBench, usePlayed } from "./state/use-bench";
import { useExpectedOverlay } from "./use-expected-overlay";
import { useFilm } from "./use-film";
import { useRange } from "./use-range";
import { useViewed } from "./use-viewed";

const WIDTH = 1280;
const DELETED = "This file was deleted by the project's keep setting. Render again to see it.";
const SHAPE = "max-h-full max-w-full outline outline-chalk/80";

/** The finished file, playing in place of the composed frame, and the expected frame to compare with. */
export function ResultViewer({ render }: { render: Render }) {
  const { rate, shownPlan } = useBench("rate", "shownPlan");
  const { marks } = useRange();
  useViewed(shownPlan, null);
  const video = useRef<HTMLVideoElement>(null);
  const [failed, setFailed] = useState(false);
  const shown = useRef<HTMLImageElement>(null);
  const overlay = useExpectedOverlay(video);
  const { time, setTime, held, divided } = overlay;
  const plays = render.playable && !failed;
  const { muted } = usePlayed();
  useFilm(video, { ...marks, rate, seconds: render.seconds });
  const picture = (asked: boolean) =>
    `/api/renders/${render.id}/picture?time=${time.toFixed(4)}&width=${WIDTH}&asked=${asked}`;

  if (render.cleared) {
    return (
      <Frame>
        <p className="rounded bg-night px-3 py-2 text-chalk">{DELETED}</p>
      </Frame>
    );
  }
  const hidden = held ? "invisible" : "";
  return (
    <Frame>
      <div className="relative flex min-h-0 w-full grow items-center justify-center">
        {plays ? (
          <video
            key={render.id}
            ref={video}
            data-testid="result"
            className={`${SHAPE} ${hidden}`}
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
            className={`${SHAPE} ${hidden}`}
            src={picture(false)}
          />
        )}
        {divided && !held && <ResultDivider over={plays ? video : shown} asked={picture(true)} />}
        {held && (
          <div className="absolute inset-0 flex items-center justify-center">
            <img alt="Expected" className={SHAPE} src={picture(true)} />
          </div>
        )}
      </div>
      <Controls {...{ overlay }}>{!plays && <ByFrames {...{ render, time, setTime }} />}</Controls>
    </Frame>
  );
}

type ControlsProps = { overlay: ReturnType<typeof useExpectedOverlay>; children: ReactNode };

const Controls = ({ overlay: { held, hold, divided, divide }, children }: ControlsProps) => (
  <div className="num mt-3 flex w-full items-center gap-4 text-chalk">
    <Switch
      on={held}
      onPointerDown={() => hold(true)}
      onPointerUp={() => hold(false)}
      onPointerLeave={() => hold(false)}
    >
      {held ? "Expected" : "Show expected (hold F)"}
    </Switch>
    <Switch on={divided} onClick={divide}>
      Split view (D)
    </Switch>
    {children}
  </div>
);

const Switch = ({ on, ...rest }: ComponentProps<"button"> & { on: boolean }) => (
  <button
    type="button"
    className={`px-1.5 py-0.5 ${on ? "bg-chalk text-night" : "bg-well/85 hover:underline"}`}
    aria-pressed={on}
    {...rest}
  />
);

type ByFramesProps = { render: Render; time: number; setTime: (time: number) => void };

/** The playhead of a file that browsers do not play. */
function ByFrames({ render, time, setTime }: ByFramesProps) {
  const { rate } = useBench("rate");
  return (
    <>
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
      <span>Browsers do not play {render.file.split(",")[0]}: frame by frame.</span>
    </>
  );
}

function Frame({ children }: { children: ReactNode }) {
  return (
    <section
      className="well flex min-h-0 min-w-0 grow flex-col items-center justify-center bg-well p-8 pb-3"
      aria-label="The finished file"
    >
      {children}
    </section>
  );
}
