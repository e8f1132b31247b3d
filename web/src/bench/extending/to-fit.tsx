import type { Footage } from "../../api/client";
import { Button } from "../../ui/button";
import { toNumber } from "../../ui/exact";
import { frameAt } from "../timecode";
import type { RangeOf } from "../use-range";
import { type ExtensionOf, SIDES } from "./use-extension";

type Props = { footage: Footage; extension: ExtensionOf; range: RangeOf; time: string };

/** Where a side fits for a part of the shot only: presses that deliver that part, or cut the shot there. */
export function ToFit({ footage, extension, range }: Props) {
  const { extended, standing } = extension;
  const verdict = standing?.verdict;
  if (!verdict || !extended) return null;
  const parts = SIDES.filter((side) => extended[side])
    .map((side) => verdict.sides[side])
    .filter((one) => one && one.verdict !== "fits" && one.fits_from !== null && one.fits_to !== null);
  const start = Math.max(...parts.map((one) => toNumber(one?.fits_from ?? "0")));
  const end = Math.min(...parts.map((one) => toNumber(one?.fits_to ?? "0")));
  if (parts.length === 0 || end - start < 0.5) return null;
  const { rate } = footage.timing;
  const exact = { start: String(start), end: String(end) };
  return (
    <div className="grid gap-1.5 border-l-3 border-ochre pl-3">
      <p>
        Works from <span className="num">{clock(start)}</span> to <span className="num">{clock(end)}</span>.
      </p>
      <div className="flex flex-wrap gap-2">
        <Button
          onClick={() =>
            range.mark({ first: frameAt(exact.start, rate), last: Math.max(0, frameAt(exact.end, rate) - 1) })
          }
        >
          Use that range
        </Button>
        <Button onClick={() => extension.split(exact)}>Split the shot there</Button>
      </div>
    </div>
  );
}

const clock = (seconds: number) =>
  `${Math.floor(seconds / 60)}:${(seconds % 60).toFixed(1).padStart(4, "0")}`;
