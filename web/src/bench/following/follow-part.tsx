import type { Footage, Plan } from "../../api/client";
import { toExact, toNumber } from "../../api/exact";
import { Button } from "../../ui/button";
import { ChoiceRow } from "../../ui/choice-row";
import { ProblemNote } from "../../ui/problem-note";
import { SliderRow } from "../../ui/slider-row";
import { everywhere } from "../editor/scope";
import { frameAt, timecode } from "../timecode";
import type { Editing } from "../use-framing";
import type { Transport } from "../use-transport";
import { Candidates } from "./candidates";
import { doubtsOf, PACES } from "./follow";
import type { Following, FollowingHand } from "./use-following";

const AIMS = [
  { value: "subject", title: "moves with what matters" },
  { value: "still", title: "holds still, where most is kept" },
  { value: "centre", title: "stays in the middle" },
] as const;

type Props = Pick<Editing, "plan" | "commit"> & {
  footage: Footage;
  whole: Plan;
  following: Following;
  transport: Transport;
} & FollowingHand;

/** A window that follows: how, whom, and where it may be wrong. */
export function FollowPart(props: Props) {
  const { footage, plan, following, drawing, onDraw, shifting, onShift } = props;
  const { follow, solved, looking, refused, solve, busy, error } = following;
  if (!follow)
    return (
      <div className="grid gap-2">
        <ProblemNote error={error} />
        <Button
          look="main"
          disabled={busy || footage.info.kind !== "clip"}
          onClick={() => solve({}, "Follow")}
        >
          Follow what matters
        </Button>
        {footage.info.kind !== "clip" && (
          <p className="text-soft">A still does not move. A slow push may do: choose one below.</p>
        )}
      </div>
    );
  const sizes = { low: 1, high: 3, step: 0.05, initial: 1, unit: "×" };
  return (
    <section aria-label="Following" className="grid gap-3">
      <ProblemNote error={error} />
      {looking && (
        <p role="status" className="border-l-3 border-ochre pl-3">
          Looking at what moves … <span className="num">{looking.done_percent} %</span>. The window stands
          until then.
        </p>
      )}
      {refused && (
        <p role="status" className="border-l-3 border-rust pl-3">
          {refused.problem} {refused.remedy}
        </p>
      )}
      <fieldset className="grid grid-cols-[84px_1fr] items-center gap-2.5">
        <legend className="sr-only">Pace</legend>
        <span aria-hidden="true">Pace</span>
        <div className="flex">
          {PACES.map(({ value, title }) => (
            <button
              key={value}
              type="button"
              aria-pressed={follow.pace === value}
              disabled={busy}
              className={`grow border border-rule px-2 py-1 ${follow.pace === value ? "bg-ink text-paper" : "bg-sheet hover:border-soft"}`}
              onClick={() => solve({ pace: value }, `Pace: ${title}`)}
            >
              {title}
            </button>
          ))}
        </div>
      </fieldset>
      <ChoiceRow
        label="Window"
        value={follow.aim}
        choices={AIMS}
        onChange={(aim) => solve({ aim: aim as typeof follow.aim }, "Follow otherwise")}
      />
      <Candidates {...{ footage, plan, following }} />
      {solved && (
        <div className="flex flex-wrap gap-2">
          <Button disabled={busy} aria-pressed={drawing} onClick={() => onDraw(!drawing)}>
            {drawing ? "Draw round it on the source" : "Draw a box"}
          </Button>
          <Button
            aria-pressed={shifting}
            title="What is dragged pins the window at this moment; or else shifts its whole way"
            onClick={() => onShift(!shifting)}
          >
            {shifting ? "Dragging shifts all" : "Dragging pins"}
          </Button>
        </div>
      )}
      <Drawn {...props} />
      <Pins {...props} />
      <SliderRow
        label="Closer to"
        {...sizes}
        value={toNumber(follow.closest)}
        onChange={() => undefined}
        onCommit={(value) => solve({ closest: toExact(value, 2) }, "How close")}
      />
      <SliderRow
        label="Wider to"
        {...sizes}
        value={toNumber(follow.widest)}
        onChange={() => undefined}
        onCommit={(value) => solve({ widest: toExact(value, 2) }, "How wide")}
      />
      <Doubts {...props} />
      {solved && (
        <div className="flex flex-wrap items-center gap-2">
          <Button disabled={busy} onClick={following.giveToOthers}>
            The same in the other frames
          </Button>
          {following.given && (
            <span role="status" className="text-soft">
              given to {following.given.length} {following.given.length === 1 ? "frame" : "frames"}
            </span>
          )}
        </div>
      )}
    </section>
  );
}

/** Boxes that were drawn, and until when each counts. */
function Drawn({ footage, plan, following, transport }: Props) {
  const { follow, solve, busy } = following;
  const { rate } = footage.timing;
  const drawn = follow?.subjects.filter((one) => one.drawn) ?? [];
  if (drawn.length === 0 || !follow) return null;
  const put = (subjects: typeof drawn, label: string) =>
    solve({ subjects: [...follow.subjects.filter((one) => !one.drawn), ...subjects] }, label);
  return (
    <ul aria-label="Boxes" className="grid gap-1">
      {drawn.map((one, index) => (
        <li key={JSON.stringify(one)} className="flex items-center gap-2">
          <span className="grow">
            Box at <Moment {...{ transport, rate }} time={one.time} />
            {one.until && (
              <>
                {" "}
                until <Moment {...{ transport, rate }} time={one.until} />
              </>
            )}
          </span>
          <Button
            look="quiet"
            disabled={busy}
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
            disabled={busy}
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
      {plan.motion.follow?.aim !== "subject" && (
        <li className="text-soft">Followed once the window moves.</li>
      )}
    </ul>
  );
}

const secondsAt = (frame: number, rate: string) => toExact(frame / toNumber(rate), 4);

/** Places that the window passes exactly. */
function Pins({ footage, following, transport }: Props) {
  const { follow, solve, busy } = following;
  const { rate } = footage.timing;
  if (!follow?.pins.length) return null;
  return (
    <ul aria-label="Pins" className="grid gap-1">
      {follow.pins.map((pin) => (
        <li key={pin.time} className="flex items-center gap-2">
          <span className="grow">
            Pinned at <Moment {...{ transport, rate }} time={pin.time} />
          </span>
          <label className="num flex items-center gap-1 text-soft">
            holds
            <select
              aria-label={`How long the pin at ${timecode(frameAt(pin.time, rate), rate)} holds`}
              className="rounded border border-rule bg-sheet"
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
            disabled={busy}
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

const WORDS = {
  nobody: "Nothing to follow",
  lost: "The subject is lost",
  unsure: "Unsure whom to follow",
  wide: "Wider than the window",
  large: "Larger than the window",
  leaves: "Part of it is outside",
};

/** Where it may be wrong, and what can be done where a group does not fit. */
function Doubts({ footage, plan, whole, commit, following, transport }: Props) {
  const { rate } = footage.timing;
  const doubts = doubtsOf(whole);
  if (!following.solved) return null;
  if (doubts.length === 0) return <p className="text-soft">Nothing doubtful.</p>;
  const wide = doubts.some(({ reason }) => reason === "wide" || reason === "large");

  function wholePicture() {
    const still = { move: null, keys: [], follow: null, inside: true };
    const sized = {
      ...plan.placement,
      sizing: "tightness",
      tightness: "0",
      offset_x: "0",
      offset_y: "0",
    } as const;
    const parts = { placement: sized, motion: still } as Partial<Plan>;
    commit(
      plan.shots.length ? ({ ...plan, ...parts } as Plan) : everywhere(plan, parts as Plan),
      "Whole with surround",
    );
  }

  return (
    <section aria-label="Doubtful places" className="grid gap-1">
      <p>
        <span className="num">{doubts.length}</span> doubtful {doubts.length === 1 ? "place" : "places"}; N
        goes to the next.
      </p>
      <ul className="grid max-h-40 gap-0.5 overflow-y-auto">
        {doubts.map((one) => (
          <li key={`${one.start} ${one.reason}`} className="border-l-3 border-rust pl-3">
            <Moment {...{ transport, rate }} time={one.start} /> to{" "}
            <Moment {...{ transport, rate }} time={one.end} />: {WORDS[one.reason].toLowerCase()},{" "}
            <span className="num">{one.sure} %</span> sure
          </li>
        ))}
      </ul>
      {wide && (
        <div className="flex flex-wrap items-center gap-2">
          <Button onClick={wholePicture}>Whole with surround</Button>
          <span className="text-soft">or choose one of them above</span>
        </div>
      )}
    </section>
  );
}

function Moment({ transport, rate, time }: { transport: Transport; rate: string; time: string }) {
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
