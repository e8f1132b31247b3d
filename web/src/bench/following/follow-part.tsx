import { useQueryClient } from "@tanstack/react-query";
import { api, type Follow } from "../../api/client";
import { AT_WORK, refreshFramings } from "../../api/queries";
import { useChoices } from "../../api/use-choices";
import { useSend } from "../../api/use-send";
import { Button } from "../../ui/button";
import { ChoiceRow } from "../../ui/choice-row";
import { toExact, toNumber } from "../../ui/exact";
import { SliderRow } from "../../ui/slider-row";
import { asked } from "../editor/scope";
import { follows } from "../shots/shots";
import { useBench } from "../state/use-bench";
import { Candidates } from "./candidates";
import { DrawnBoxes, Pins } from "./corrections";
import { Doubts } from "./doubts";

/** A window that follows: how, whom, and where it may be wrong. */
export function FollowPart() {
  const { plan, follow: solve } = useBench("plan", "follow");
  const { aims } = useChoices();
  const { follow } = plan.motion;
  if (!follow) return <StartFollowing />;
  const sizes = { low: 1, high: 3, step: 0.05, initial: 1, unit: "×", onChange: () => undefined };
  return (
    <section aria-label="Following" className="grid gap-3">
      <AnalysisStatus />
      <Paces chosen={follow.pace} />
      <ChoiceRow
        label="Window"
        value={follow.aim}
        choices={aims}
        onChange={(aim) => solve({ aim: aim as typeof follow.aim }, "Follow otherwise")}
      />
      <Candidates />
      {follows(plan.motion) && <DragChoices />}
      <DrawnBoxes />
      <Pins />
      <SliderRow
        label="Zoom in up to"
        {...sizes}
        value={toNumber(follow.closest)}
        onCommit={(value) => solve({ closest: toExact(value, 2) }, "How close")}
      />
      <SliderRow
        label="Zoom out up to"
        {...sizes}
        value={toNumber(follow.widest)}
        onCommit={(value) => solve({ widest: toExact(value, 2) }, "How wide")}
      />
      <Doubts />
      {follows(plan.motion) && <UseInOtherFrames />}
    </section>
  );
}

/** The progress of the analysis that following needs, or why it failed. */
function AnalysisStatus() {
  const { footage, following } = useBench("footage", "following");
  const job = footage.analyses.find(({ kind }) => kind === "following");
  if (job && AT_WORK.includes(job.state))
    return (
      <p role="status" className="border-l-3 border-ochre pl-3">
        Analysing movement … <span className="num">{job.done_percent}%</span>. The window stands until then.
      </p>
    );
  if (!job?.problem || following) return null;
  return (
    <p role="status" className="border-l-3 border-rust pl-3">
      {job.problem} {job.remedy}
    </p>
  );
}

function Paces({ chosen }: { chosen: Follow["pace"] }) {
  const { editing, follow } = useBench("editing", "follow");
  const { paces } = useChoices();
  return (
    <fieldset className="grid grid-cols-[84px_1fr] items-center gap-2.5">
      <legend className="sr-only">Speed</legend>
      <span aria-hidden="true">Speed</span>
      <div className="flex">
        {paces.map(({ value, title }) => (
          <button
            key={value}
            type="button"
            aria-pressed={chosen === value}
            disabled={editing}
            className={`grow border border-rule px-2 py-1 ${chosen === value ? "bg-ink text-paper" : "bg-sheet hover:border-soft"}`}
            onClick={() => follow({ pace: value as Follow["pace"] }, `Speed: ${title}`)}
          >
            {title}
          </button>
        ))}
      </div>
    </fieldset>
  );
}

/** What a drag in the viewer does. */
function DragChoices() {
  const { editing, drawingBox, shiftingPath, show } = useBench(
    "editing",
    "drawingBox",
    "shiftingPath",
    "show",
  );
  return (
    <div className="flex flex-wrap gap-2">
      <Button disabled={editing} aria-pressed={drawingBox} onClick={() => show({ drawingBox: !drawingBox })}>
        {drawingBox ? "Draw round it on Source" : "Draw a box"}
      </Button>
      <Button
        aria-pressed={shiftingPath}
        title="On: dragging shifts the whole path. Off: dragging adds a pin at the playhead"
        onClick={() => show({ shiftingPath: !shiftingPath })}
      >
        Shift whole path
      </Button>
    </div>
  );
}

function StartFollowing() {
  const { footage, editing, follow } = useBench("footage", "editing", "follow");
  const still = footage.info.kind !== "clip";
  return (
    <div className="grid gap-2">
      <Button look="main" disabled={editing || still} onClick={() => follow({}, "Follow")}>
        Follow subject
      </Button>
      {still && <p className="text-soft">A still does not move. A slow push may do: choose one below.</p>}
    </div>
  );
}

function UseInOtherFrames() {
  const { framingId, plan, report } = useBench("framingId", "plan", "report");
  const client = useQueryClient();
  const { mutate, data, isPending } = useSend(
    () =>
      api.POST("/api/framings/{framing_id}/follow/others", {
        params: { path: { framing_id: framingId } },
        body: asked(plan),
      }),
    { onSuccess: () => refreshFramings(client), onError: report },
  );
  return (
    <div className="flex flex-wrap items-center gap-2">
      <Button disabled={isPending} onClick={() => mutate()}>
        Use in the other frames
      </Button>
      {data && (
        <span role="status" className="text-soft">
          Used in {data.length} {data.length === 1 ? "frame" : "frames"}.
        </span>
      )}
    </div>
  );
}
