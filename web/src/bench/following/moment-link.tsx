import { frameAt, timecode } from "../timecode";
import type { Transport } from "../use-transport";

/** A moment of the clip, which a press goes to. */
export function MomentLink({ transport, rate, time }: { transport: Transport; rate: string; time: string }) {
  return (
    <button
      type="button"
      className="num underline decoration-rule underline-offset-4 hover:decoration-ink"
      onClick={() => transport.go(frameAt(time, rate))}
    >
      {timecode(frameAt(time, rate), rate)}
    </button>
  );
}
