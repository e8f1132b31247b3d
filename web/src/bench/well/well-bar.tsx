import type { Keying } from "../keying/use-keying";
import type { Looking } from "../use-looking";

type Props = { looking: Looking; keying: Keying; following: boolean };

/** The views of a framing; buttons keep on what a key shows only while held. */
export function WellBar({ looking, keying, following }: Props) {
  const { onSource, past, compared } = looking;
  const look = (pressed: boolean) =>
    `min-w-6 whitespace-nowrap px-1.5 py-0.5 ${pressed ? "bg-chalk text-night" : "bg-well/85 text-chalk hover:underline"}`;
  return (
    <>
      {keying.keyed && keying.on && (
        <div className="pointer-events-none absolute inset-0 border-4 border-rust" aria-hidden="true">
          <p className="num inline-block bg-rust px-2 py-1 text-paper">Keyframing: a drag sets a keyframe</p>
        </div>
      )}
      <div className="num absolute right-4 bottom-3 left-4 flex flex-wrap items-center gap-x-1.5 gap-y-1">
        <fieldset aria-label="View" className="flex border border-chalk/60">
          <button
            type="button"
            aria-pressed={!onSource && looking.zoom === null}
            className={look(!onSource && looking.zoom === null)}
            onClick={() => looking.setOnSource(false)}
          >
            Frame
          </button>
          <button
            type="button"
            aria-label="Zoom out"
            className={look(false)}
            onClick={() => looking.zoomBy(0.5)}
          >
            −
          </button>
          <button
            type="button"
            aria-pressed={looking.zoom !== null}
            title="One pixel of the frame on one of the screen (X); drag to move the visible part, Ctrl and wheel to zoom"
            className={look(looking.zoom !== null)}
            onClick={looking.lookFull}
          >
            {(looking.zoom ?? 1) * 100}%
          </button>
          <button
            type="button"
            aria-label="Zoom in"
            className={look(false)}
            onClick={() => looking.zoomBy(2)}
          >
            +
          </button>
          <button
            type="button"
            aria-pressed={onSource}
            className={look(onSource)}
            onClick={() => looking.setOnSource(true)}
          >
            Source
          </button>
        </fieldset>
        {!onSource && (
          <>
            <button type="button" aria-pressed={past} className={look(past)} onClick={looking.lookPast}>
              Show cropped (H)
            </button>
            <button
              type="button"
              aria-pressed={compared}
              className={look(compared)}
              onClick={looking.compare}
            >
              Before/after
            </button>
            <button
              type="button"
              aria-pressed={looking.loupe}
              className={look(looking.loupe)}
              onClick={looking.lookNear}
            >
              Loupe (Z)
            </button>
            <button
              type="button"
              aria-pressed={looking.scopes}
              title="Waveform, RGB parade and vectorscope of the composed frame (W)"
              className={look(looking.scopes)}
              onClick={looking.lookAtScopes}
            >
              Scopes
            </button>
            <button type="button" className={look(false)} onClick={() => looking.setOnScreen(true)}>
              Full screen (F)
            </button>
          </>
        )}
        {onSource && following && (
          <button
            type="button"
            aria-pressed={looking.dimmed}
            className={look(looking.dimmed)}
            onClick={looking.dim}
          >
            Dim outside
          </button>
        )}
        {keying.keyed && (
          <button
            type="button"
            aria-pressed={keying.on}
            title="A drag sets a keyframe at the playhead, until you leave this shot"
            className={look(keying.on)}
            onClick={() => keying.switchOn(!keying.on)}
          >
            Auto keyframe
          </button>
        )}
      </div>
    </>
  );
}
