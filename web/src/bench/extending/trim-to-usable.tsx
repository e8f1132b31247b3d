import { api, unwrap } from "../../api/client";
import { Button } from "../../ui/button";
import { toNumber } from "../../ui/exact";
import { useBench } from "../state/use-bench";
import { frameAt } from "../timecode";
import { useRange } from "../use-range";
import { SIDES, useExtension } from "./use-extension";

/** Where a side fits only for a part of the shot: deliver just that part, or split the shot there. */
export function TrimToUsable() {
  const { rate, time, committedPlan, edit } = useBench("rate", "time", "committedPlan", "edit");
  const { mark } = useRange();
  const { extended, state } = useExtension();
  const verdict = state?.verdict;
  if (!verdict || !extended) return null;
  const parts = SIDES.filter((side) => extended[side])
    .map((side) => verdict.sides[side])
    .filter((one) => one && one.verdict !== "fits" && one.fits_from !== null && one.fits_to !== null);
  const start = Math.max(...parts.map((one) => toNumber(one?.fits_from ?? "0")));
  const end = Math.min(...parts.map((one) => toNumber(one?.fits_to ?? "0")));
  if (parts.length === 0 || end - start < 0.5) return null;
  const exact = { start: String(start), end: String(end) };
  const split = () =>
    edit(
      "Cut where it fits",
      (params, asked) =>
        unwrap(
          api.POST("/api/framings/{framing_id}/extension/to-fit", {
            params,
            body: { ...asked, time, ...exact },
          }),
        ),
      committedPlan,
    );
  return (
    <div className="grid gap-1.5 border-l-3 border-ochre pl-3">
      <p>
        Works from <span className="num">{clock(start)}</span> to <span className="num">{clock(end)}</span>.
      </p>
      <div className="flex flex-wrap gap-2">
        <Button
          onClick={() =>
            mark({ first: frameAt(exact.start, rate), last: Math.max(0, frameAt(exact.end, rate) - 1) })
          }
        >
          Use that range
        </Button>
        <Button onClick={split}>Split the shot there</Button>
      </div>
    </div>
  );
}

const clock = (seconds: number) =>
  `${Math.floor(seconds / 60)}:${(seconds % 60).toFixed(1).padStart(4, "0")}`;
