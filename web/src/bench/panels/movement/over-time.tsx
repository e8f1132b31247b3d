import { useQuery } from "@tanstack/react-query";
import { api, type Design, type Schemas, unwrap } from "../../../api/client";
import { shown } from "../../../ui/exact";
import { ProblemNote } from "../../../ui/problem-note";
import { MomentLink } from "../../moment-link";
import { moves } from "../../shots/shots";
import { useBench } from "../../state/use-bench";

/** The least and the most over time, each with its moment, which a press goes to. */
export function OverTime({ design }: { design: Design }) {
  const { framingId } = useBench("framingId");
  const still = !moves(design);
  const { data, error } = useQuery({
    queryKey: ["over time", framingId, design],
    enabled: !still,
    placeholderData: (before) => before,
    queryFn: () =>
      unwrap(
        api.POST("/api/framings/{framing_id}/over-time", {
          params: { path: { framing_id: framingId } },
          body: { design },
        }),
      ),
  });
  if (error) return <ProblemNote error={error} />;
  if (still || !data) return null;
  return (
    <section className="grid gap-1" aria-label="Over time">
      <Extremes extremes={data} />
      {data.cautions.map(({ kind, message, time }) => (
        <p key={kind} className="border-l-3 border-rust pl-3">
          {message} Worst at {at(time)}.
        </p>
      ))}
      {data.held.length > 0 && <HeldInside times={data.held} />}
      {data.empty.map(({ start, end }) => (
        <p key={start} className="border-l-3 border-rust pl-3">
          Empty beside the picture from {at(start)} to {at(end)}.
        </p>
      ))}
      {data.fast.map(({ start, end }) => (
        <p key={start} className="border-l-3 border-rust pl-3">
          Fast from {at(start)} to {at(end)}: the window crosses more than a third of itself in a second.
        </p>
      ))}
    </section>
  );
}

const at = (time: string) => <MomentLink time={time} />;

/** The least and the most of each number. */
function Extremes({ extremes: data }: { extremes: Schemas["OverTime"] }) {
  const rows = [
    ["Picture kept", data.kept_least, data.kept_most, (value: string) => `${shown(value, 1)}%`],
    ["Frame covered", data.covered_least, data.covered_most, (value: string) => `${shown(value, 1)}%`],
    ["Enlarged", data.enlarged_least, data.enlarged_most, (value: string) => `${shown(value, 3)} ×`],
  ] as const;
  return rows.map(([name, least, most, say]) => (
    <p key={name}>
      {name} <span className="num">{say(least.value)}</span>
      {most.value === least.value ? (
        " throughout"
      ) : (
        <>
          {" "}
          at {at(least.time)}, <span className="num">{say(most.value)}</span> at {at(most.time)}
        </>
      )}
    </p>
  ));
}

const HeldInside = ({ times }: { times: string[] }) => (
  <p className="border-l-3 border-ochre pl-3">
    Kept inside the picture: {times.length === 1 ? "keyframe" : "keyframes"} at{" "}
    {times.map((time, index) => (
      <span key={time}>
        {index > 0 && ", "}
        {at(time)}
      </span>
    ))}
    .
  </p>
);
