import { api } from "../../api/client";
import { useSend } from "../../api/use-send";
import { Button } from "../../ui/button";
import { toNumber } from "../../ui/exact";
import { Fold } from "../../ui/fold";
import { ProblemNote } from "../../ui/problem-note";
import { useBench } from "../state/use-bench";
import { Exclusion } from "./exclusion";
import { Outside } from "./outside";
import { SidePart } from "./side-part";
import { TrimToUsable } from "./trim-to-usable";
import { ON_ITS_WAY, SIDES, useExtend, useExtension } from "./use-extension";

const UPRIGHT = ["left", "right"] as const;

/** Extending the scene: whether it works, the options for each side, and the share of real pixels. */
export function ExtendedPart() {
  const { tinted, beforeAfter, show } = useBench("tinted", "beforeAfter", "show");
  const { extended, state, error } = useExtension();
  if (!extended) return null;
  const job = state?.looking;
  const rest = SIDES.filter((side) => !UPRIGHT.includes(side as never));
  const sides = (each: readonly (typeof SIDES)[number][]) => (
    <div className="grid grid-cols-1 gap-3">
      {each.map((side) => (
        <SidePart key={side} side={side} />
      ))}
    </div>
  );
  return (
    <section aria-label="Extending" className="grid gap-3">
      <ProblemNote error={error} />
      {job && ON_ITS_WAY.includes(job.state) && (
        <p role="status" className="border-l-3 border-ochre pl-3">
          Looking at its sides … <span className="num">{job.done_percent}%</span>
        </p>
      )}
      {job?.problem && <p className="text-soft">{job.problem}</p>}
      <Making />
      <CameraNote />
      <Shares />
      <div className="flex flex-wrap gap-2">
        <Button aria-pressed={tinted} onClick={() => show({ tinted: !tinted })} title="T">
          Highlight invented pixels
        </Button>
        <Button aria-pressed={beforeAfter} onClick={() => show({ beforeAfter: !beforeAfter })}>
          Before/after
        </Button>
      </div>
      <p className="text-soft">Space plays it: this is judged moving.</p>
      <TrimToUsable />
      {sides(UPRIGHT)}
      <Fold
        title="Above and below"
        state={rest.some((side) => extended[side]) ? "extended" : "left alone"}
        open={rest.some((side) => extended[side])}
      >
        {sides(rest)}
      </Fold>
      {extended.camera === "still" && <Exclusion />}
      <Outside />
    </section>
  );
}

/** A note if the camera was found to move or to stand otherwise than the extension assumes. */
function CameraNote() {
  const { plan } = useBench("plan");
  const extend = useExtend();
  const { extended, state } = useExtension();
  const verdict = state?.verdict;
  const camera = verdict?.camera.move;
  const moves = camera === "panning" || camera === "drifting";
  if (!verdict || moves === (extended?.camera === "moving")) return null;
  return (
    <p className="border-l-3 border-ochre pl-3">
      {moves
        ? "The camera moves: real pixels of other moments can stand beside the picture."
        : "The camera stands here."}{" "}
      <Button look="link" onClick={() => extend(plan)}>
        Use that
      </Button>
    </p>
  );
}

/** Plates in progress, and those that failed. */
function Making() {
  const { report } = useBench("report");
  const { state, refresh } = useExtension();
  const { mutate: plate } = useSend(
    ({ id, verb }: { id: number; verb: "cancel" | "retry" }) =>
      api.POST("/api/plates/{plate_id}/{verb}", { params: { path: { plate_id: id, verb } } }),
    { onError: report, refresh },
  );
  const whole = state?.plates.filter(({ draft }) => !draft) ?? [];
  return whole.map((one) => {
    if (ON_ITS_WAY.includes(one.state))
      return (
        <p key={one.id} role="status" className="flex items-baseline gap-2 border-l-3 border-ochre pl-3">
          <span>
            Making it at full size … <span className="num">{one.done_percent}%</span>
          </span>
          <Button look="link" onClick={() => plate({ id: one.id, verb: "cancel" })}>
            cancel
          </Button>
        </p>
      );
    if (one.state === "failed" || one.state === "cancelled")
      return (
        <p key={one.id} role="status" className="border-l-3 border-rust pl-3">
          {one.problem || "It was cancelled; a draft is seen where there is one."} {one.remedy}{" "}
          <Button look="link" onClick={() => plate({ id: one.id, verb: "retry" })}>
            Try again
          </Button>
        </p>
      );
    return null;
  });
}

/** How much of the frame is real. */
function Shares() {
  const { state } = useExtension();
  const shares = state?.shares;
  if (!shares) return null;
  const parts = [
    { name: "real", value: shares.real, colour: "bg-moss" },
    { name: "real, of other moments", value: shares.elsewhen, colour: "bg-[#3c8cdc]" },
    { name: "invented", value: shares.invented, colour: "bg-[#e6781e]" },
    { name: "not covered", value: shares.beyond, colour: "bg-rule" },
  ].filter(({ value }) => toNumber(value) >= 0.1);
  return (
    <div className="grid gap-1">
      <div className="flex h-1.5" aria-hidden="true">
        {parts.map(({ name, value, colour }) => (
          <span key={name} className={colour} style={{ width: `${toNumber(value)}%` }} />
        ))}
      </div>
      {parts.map(({ name, value, colour }) => (
        <p key={name} className="flex items-center justify-between">
          <span className="flex items-center gap-1.5">
            <span aria-hidden="true" className={`h-2 w-2 ${colour}`} />
            {name}
          </span>
          <span className="num">{toNumber(value).toFixed(1)}%</span>
        </p>
      ))}
      {(state?.short.length ?? 0) > 0 && (
        <p className="text-rust">The plate ends within the frame: {state?.short.join(", ")}.</p>
      )}
    </div>
  );
}
