import { type ReactNode, useState } from "react";
import type { Footage } from "../../api/client";
import { Button } from "../../ui/button";
import { shown } from "../../ui/exact";
import type { Player } from "../playing/player";
import { usePlayed } from "../playing/use-player";
import { frameOf, timecode } from "../timecode";
import type { RangeOf } from "../use-range";
import { type Transport, useFrame, useSpeed } from "../use-transport";
import { Meter } from "./meter";
import { OutsideRange, Range } from "./range";
import { Slider } from "./slider";
import { Strip } from "./strip";
import { Track } from "./track";
import { useLevels } from "./use-levels";

type Props = {
  footage: Footage;
  aspect: number;
  transport: Transport;
  range: RangeOf;
  player: Player;
  lanes?: ReactNode;
};

/** The timeline: the clip as a filmstrip, with the playhead. */
export function Timeline({ footage, aspect, transport, range, player, lanes }: Props) {
  const speed = useSpeed(transport);
  const { muted } = usePlayed(player);
  const levels = useLevels(footage);
  const [zoom, setZoom] = useState(1);
  const { frames, rate } = footage.timing;
  return (
    <footer className="bottom-0 z-10 flex narrow-tall:sticky min-h-[104px] narrow:min-h-0 shrink-0 narrow:flex-wrap items-end gap-4 narrow:gap-2 border-rule border-t bg-paper px-4 narrow:px-2 pt-2 pb-3 narrow:py-2">
      <div className="w-32 narrow:w-28 shrink-0">
        <Clock {...{ transport, rate }} />
        <p className="num text-soft">of {timecode(frames, rate)}</p>
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
        <Track {...{ transport, frames, zoom }} onZoom={setZoom}>
          {lanes}
          <Slider {...{ transport, frames, rate }}>
            <Strip {...{ footage, aspect, levels }} parts={zoom} />
            {range.part && <OutsideRange range={range} frames={frames} />}
          </Slider>
        </Track>
      </div>
      {footage.info.sounds.length > 0 && <Meter {...{ levels, transport, rate }} />}
      <Range {...{ range, transport, rate }} />
    </footer>
  );
}

/** The time code of the playhead; another can be typed, also as frames from here, such as +12. */
function Clock({ transport, rate }: { transport: Transport; rate: string }) {
  const frame = useFrame(transport);
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
