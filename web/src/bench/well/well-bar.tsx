import type { Keying } from "../keying/use-keying";
import type { Looking } from "../use-looking";

type Props = { looking: Looking; keying: Keying; following: boolean };

/** The two views of a framing, and looking past the frame; what is done by holding a key stays open by a click. */
export function WellBar({ looking, keying, following }: Props) {
  const { onSource, past, compared } = looking;
  const look = (pressed: boolean) =>
    `whitespace-nowrap px-1.5 py-0.5 ${pressed ? "bg-chalk text-night" : "bg-well/85 text-chalk hover:underline"}`;
  return (
    <>
      {keying.keyed && keying.on && (
        <div className="pointer-events-none absolute inset-0 border-4 border-rust" aria-hidden="true">
          <p className="num inline-block bg-rust px-2 py-1 text-paper">
            Keying: what is dragged becomes a key
          </p>
        </div>
      )}
      <div className="num absolute right-4 bottom-3 left-4 flex flex-wrap items-center gap-x-1.5 gap-y-1">
        <div className="flex border border-chalk/60">
          <button
            type="button"
            aria-pressed={!onSource && !looking.full}
            className={look(!onSource && !looking.full)}
            onClick={() => looking.setOnSource(false)}
          >
            In the frame
          </button>
          <button
            type="button"
            aria-pressed={looking.full}
            title="One pixel of the frame on one of the screen (X); the hand moves what is seen of it"
            className={look(looking.full)}
            onClick={looking.lookFull}
          >
            at 100 %
          </button>
          <button
            type="button"
            aria-pressed={onSource}
            className={look(onSource)}
            onClick={() => looking.setOnSource(true)}
          >
            On the source
          </button>
        </div>
        {!onSource && (
          <>
            <button type="button" aria-pressed={past} className={look(past)} onClick={looking.lookPast}>
              Hidden (H)
            </button>
            <button
              type="button"
              aria-pressed={compared}
              className={look(compared)}
              onClick={looking.compare}
            >
              Before, after
            </button>
            <button
              type="button"
              aria-pressed={looking.loupe}
              className={look(looking.loupe)}
              onClick={looking.lookNear}
            >
              Loupe (Z)
            </button>
            <button type="button" className={look(false)} onClick={() => looking.setOnScreen(true)}>
              Whole screen (F)
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
            Outside dimmed
          </button>
        )}
        {keying.keyed && (
          <button
            type="button"
            aria-pressed={keying.on}
            title="What is dragged becomes a key of the moment; for this shot, until it is left or opened anew"
            className={look(keying.on)}
            onClick={() => keying.switchOn(!keying.on)}
          >
            {keying.on ? "Keying is on" : "Keying"}
          </button>
        )}
      </div>
    </>
  );
}
