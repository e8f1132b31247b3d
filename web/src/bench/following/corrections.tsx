import { Button } from "../../ui/button";
import { toExact, toNumber } from "../../ui/exact";
import { MomentLink } from "../moment-link";
import { useBench } from "../state/use-bench";
import { frameAt, timecode } from "../timecode";

/** Boxes that were drawn, and until when each counts. */
export function DrawnBoxes() {
  const {
    plan,
    transport,
    rate,
    follow: solve,
    editing,
  } = useBench("plan", "transport", "rate", "follow", "editing");
  const { follow } = plan.motion;
  const drawn = follow?.subjects.filter((one) => one.drawn) ?? [];
  if (drawn.length === 0 || !follow) return null;
  const put = (subjects: typeof drawn, label: string) =>
    solve({ subjects: [...follow.subjects.filter((one) => !one.drawn), ...subjects] }, label);
  return (
    <ul aria-label="Boxes" className="grid gap-1">
      {drawn.map((one, index) => (
        <li key={JSON.stringify(one)} className="flex items-center gap-2">
          <span className="grow">
            Box at <MomentLink time={one.time} />
            {one.until && (
              <>
                {" "}
                until <MomentLink time={one.until} />
              </>
            )}
          </span>
          <Button
            look="quiet"
            disabled={editing}
            title="From this moment on it is followed no more"
            onClick={() =>
              put(
                drawn.map((other, at) =>
                  at === index ? { ...other, until: secondsAt(transport.frame, rate) } : other,
                ),
                "Ends here",
              )
            }
          >
            Ends here
          </Button>
          <Button
            look="quiet"
            disabled={editing}
            aria-label={`Remove the box at ${timecode(frameAt(one.time, rate), rate)}`}
            onClick={() =>
              put(
                drawn.filter((_, at) => at !== index),
                "Box removed",
              )
            }
          >
            ×
          </Button>
        </li>
      ))}
      {follow.aim !== "subject" && <li className="text-soft">Followed once the window moves.</li>}
    </ul>
  );
}

const secondsAt = (frame: number, rate: string) => toExact(frame / toNumber(rate), 4);

/** Places that the window passes exactly. */
export function Pins() {
  const { plan, rate, follow: solve, editing } = useBench("plan", "rate", "follow", "editing");
  const { follow } = plan.motion;
  if (!follow?.pins.length) return null;
  return (
    <ul aria-label="Pins" className="grid gap-1">
      {follow.pins.map((pin) => (
        <li key={pin.time} className="flex items-center gap-2">
          <span className="grow">
            Pinned at <MomentLink time={pin.time} />
          </span>
          <label className="num flex items-center gap-1 text-soft">
            holds
            <select
              aria-label={`How long the pin at ${timecode(frameAt(pin.time, rate), rate)} holds`}
              className="rounded border border-edge bg-sheet"
              value={String(toNumber(pin.hold))}
              onChange={({ target }) =>
                solve(
                  {
                    pins: follow.pins.map((one) =>
                      one === pin ? { ...one, hold: toExact(Number(target.value), 2) } : one,
                    ),
                  },
                  "How long a pin holds",
                )
              }
            >
              {[...new Set([0, 0.34, 1, 2, 4, toNumber(pin.hold)])].map((hold) => (
                <option key={hold} value={hold}>
                  {hold} s
                </option>
              ))}
            </select>
          </label>
          <Button
            look="quiet"
            disabled={editing}
            aria-label={`Remove the pin at ${timecode(frameAt(pin.time, rate), rate)}`}
            onClick={() => solve({ pins: follow.pins.filter((one) => one !== pin) }, "Pin removed")}
          >
            ×
          </Button>
        </li>
      ))}
    </ul>
  );
}
