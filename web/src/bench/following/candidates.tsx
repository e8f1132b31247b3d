import { useQuery } from "@tanstack/react-query";
import { api, type Plan, type Schemas, unwrap } from "../../api/client";
import { clipPicture } from "../../api/pictures";
import { titleOf, useChoices } from "../../api/use-choices";
import { asked } from "../editor/scope";
import { follows, shotAt } from "../shots/shots";
import { useBench } from "../state/use-bench";

type Candidate = Schemas["CastMember"];

const WIDTH = 640;
const SIDE = 68;

/** The subjects that could be followed in the current shot, at the playhead. */
function useCandidates() {
  const { framingId, plan, time } = useBench("framingId", "plan", "time");
  const solved = follows(plan.motion);
  const body = { ...asked(plan), time };
  const { data } = useQuery({
    queryKey: ["candidates", framingId, body],
    enabled: solved,
    placeholderData: (before) => before,
    gcTime: 60_000,
    queryFn: () =>
      unwrap(
        api.POST("/api/framings/{framing_id}/candidates", {
          params: { path: { framing_id: framingId } },
          body,
        }),
      ),
  });
  return (solved && data) || [];
}

/** Choose one, none or, with `also`, several of the subjects of the current shot. */
function useSubjectChoice(candidates: Candidate[]) {
  const { plan, follow: solve } = useBench("plan", "follow");
  const { follow } = plan.motion;
  const chosen = candidates.filter((one) => one.chosen);

  function choose(index: number, also: boolean) {
    const one = candidates[index];
    if (!one || !follow) return;
    const here = candidates.map(({ subject }) => JSON.stringify(subject));
    const elsewhere = follow.subjects.filter((subject) => !inShot(plan, subject.time, one.time));
    const drawn = follow.subjects.filter(
      (subject) =>
        subject.drawn && inShot(plan, subject.time, one.time) && !here.includes(JSON.stringify(subject)),
    );
    const before = also
      ? [...drawn, ...chosen.filter((other) => other !== one).map(({ subject }) => subject)]
      : [];
    const wanted = one.chosen && also ? before : [...before, one.subject];
    solve({ subjects: [...elsewhere, ...wanted] }, also ? "Follow both" : "Follow this one");
  }

  function chooseNone() {
    const time = candidates[0]?.time ?? "0";
    const subjects = follow?.subjects.filter((subject) => !inShot(plan, subject.time, time)) ?? [];
    solve({ subjects }, "Follow subject");
  }

  return { chosen, choose, chooseNone };
}

/** Choosing the subject to follow in the current shot, each shown by its own picture. */
export function Candidates() {
  const { editing } = useBench("editing");
  const candidates = useCandidates();
  const { chosen, choose, chooseNone } = useSubjectChoice(candidates);
  if (candidates.length === 0) return null;
  return (
    <section aria-label="Choose a subject" className="grid gap-1.5">
      <p className="text-soft">Choose a subject. Ctrl-click a second to keep both when they fit.</p>
      <div className="flex flex-wrap gap-1.5">
        <button
          type="button"
          aria-pressed={chosen.length === 0}
          disabled={editing}
          className={`rounded border px-1.5 text-[12px] leading-tight ${chosen.length === 0 ? "border-ochre bg-sheet font-semibold" : "border-rule text-soft hover:text-ink"}`}
          style={{ width: SIDE, height: SIDE }}
          onClick={chooseNone}
        >
          Automatic
        </button>
        {candidates.map((one, index) => (
          <CandidateButton
            key={JSON.stringify(one.subject)}
            number={index + 1}
            candidate={one}
            onChoose={(also) => choose(index, also)}
          />
        ))}
      </div>
    </section>
  );
}

type ButtonProps = { number: number; candidate: Candidate; onChoose: (also: boolean) => void };

function CandidateButton({ number, candidate: one, onChoose }: ButtonProps) {
  const { footage, plan, editing } = useBench("footage", "plan", "editing");
  const kind = titleOf(useChoices().subjects, one.kind);
  return (
    <button
      type="button"
      aria-pressed={one.chosen}
      aria-label={`Follow ${kind}, number ${number}`}
      title={`${kind}, there for ${one.share_percent}% of the shot`}
      disabled={editing}
      className={`relative overflow-hidden rounded bg-well ${one.chosen ? "outline-3 outline-ochre" : "outline outline-rule hover:outline-soft"}`}
      style={{ width: SIDE, height: SIDE }}
      onClick={(event) => onChoose(event.ctrlKey || event.metaKey || event.shiftKey)}
    >
      <img
        alt=""
        draggable={false}
        className="absolute max-w-none"
        style={{
          width: SIDE / one.width,
          height: SIDE / one.height,
          left: (-one.left * SIDE) / one.width,
          top: (-one.top * SIDE) / one.height,
        }}
        src={clipPicture(footage, plan.interpretation, { width: WIDTH, time: one.time })}
      />
    </button>
  );
}

/** Whether two moments lie in one shot. */
const inShot = (plan: Plan, one: string, other: string) => shotAt(plan, one) === shotAt(plan, other);
