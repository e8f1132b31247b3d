import { useBench } from "./state/use-bench";
import { frameAt, timecode } from "./timecode";

/** A moment of the clip, in seconds as exact text; pressing it moves the playhead there. */
export function MomentLink({ time }: { time: string }) {
  const { transport, rate } = useBench("transport", "rate");
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
