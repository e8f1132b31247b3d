import { type ReactNode, useState } from "react";
import { Button } from "../../ui/button";
import { shown } from "../../ui/exact";
import { useBench, useFrame, usePlayed, useSpeed } from "../state/use-bench";
import { frameOf, timecode } from "../timecode";
import { Meter } from "./meter";
import { OutsideRange, Range } from "./range";
import { Slider } from "./slider";
import { Strip } from "./strip";
import { Track } from "./track";
import { useLevels } from "./use-levels";

/** The timeline: the clip as a filmstrip, with the playhead, and lanes above it. */
export function Timeline({ lanes }: { lanes?: ReactNode }) {
  const { footage, rate, transport, player } = useBench("footage", "rate", "transport", "player");
  const speed = useSpeed();
  const { muted } = usePlayed();
  const levels = useLevels(footage);
  const [zoom, setZoom] = useState(1);
  return (
    <footer className="bottom-0 z-10 flex narrow-tall:sticky min-h-[104px] narrow:min-h-0 shrink-0 narrow:flex-wrap items-end gap-4 narrow:gap-2 border-rule border-t bg-paper px-4 narrow:px-2 pt-2 pb-3 narrow:py-2">
      <div className="w-32 narrow:w-28 shrink-0">
        <Clock />
        <p className="num text-soft">of {timecode(footage.timing.frames, rate)}</p>
        <p className="num text-soft">{shown(rate, 3)} fps</p>
      </div>
      <div className="grid w-20 shrink-0 gap-1">
        <Button
          look="plain"
          onClick={transport.toggle}
          title="Space. J and L play backwards and forwards, K stops; F is full screen."
        >
          {speed ? (speed === 1 ? "Stop" : `Stop ${speed}×`) : "Play"}
        </Button>
        <button
          type="button"
          className={`rounded border px-2 ${muted ? "border-ochre bg-sheet font-semibold" : "border-edge text-soft hover:text-ink"}`}
          aria-pressed={muted}
          onClick={player.mute}
        >
          Mute
        </button>
      </div>
      <div className="min-w-0 grow narrow:order-last narrow:w-full narrow:basis-full">
        <Track zoom={zoom} onZoom={setZoom}>
          {lanes}
          <Slider>
            <Strip levels={levels} parts={zoom} />
            <OutsideRange />
          </Slider>
        </Track>
      </div>
      {footage.info.sounds.length > 0 && <Meter levels={levels} />}
      <Range />
    </footer>
  );
}

/** The time code of the playhead; another can be typed, also as frames from here, such as +12. */
function Clock() {
  const { transport, rate } = useBench("transport", "rate");
  const frame = useFrame();
  const [typed, setTyped] = useState<string | null>(null);
  const now = timecode(frame, rate);

  function go() {
    const wanted = typed === null ? null : frameOf(typed, frame, rate);
    setTyped(null);
    if (wanted !== null) transport.go(wanted);
  }

  return (
    <input
      aria-label="Time code"
      data-testid="timecode"
      title="Type a time code, or frames from here such as +12"
      className="w-full rounded border border-transparent bg-transparent font-mono text-[17px] hover:border-edge focus:bg-sheet"
      value={typed ?? now}
      onFocus={({ target }) => target.select()}
      onChange={({ target }) => setTyped(target.value)}
      onBlur={go}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === "Escape") setTyped(null);
        if (event.key === "Enter") event.currentTarget.blur();
      }}
    />
  );
}
