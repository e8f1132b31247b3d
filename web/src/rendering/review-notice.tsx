import type { FrameRow, Schemas, Settings } from "../api/client";
import { BarsChoice } from "../frames/bars-choice";
import { Button } from "../ui/button";
import { ProblemNote } from "../ui/problem-note";
import { stemOf } from "../ui/stem";
import { useFileChange } from "./use-file-change";

type Notice = Schemas["Notice"];
type Props = { notice: Notice; rows: Map<number, FrameRow>; onChanged: () => void };

/** A reason to look at some of the files before they are rendered, with the change that settles it. */
export function ReviewNotice({ notice, rows, onChanged }: Props) {
  const { reason, title, blocks, wrong, remedy, places, count } = notice;
  const [first] = places;
  const concerned = [...new Set(places.map(({ frame }) => frame))].flatMap((id) => rows.get(id) ?? []);
  return (
    <li
      data-testid={`notice ${reason}`}
      className={`grid gap-1.5 border-l-3 pl-3 ${blocks || wrong ? "border-rust" : "border-ochre"}`}
    >
      {count === 1 && first && (
        <p>
          <span className="font-semibold">{title}</span>: {placeOf(first)}
        </p>
      )}
      {count > 1 && (
        <details>
          <summary className="cursor-pointer">
            <span className="font-semibold">{title}</span>: {count} files
          </summary>
          <ul className="num mt-1 grid gap-0.5">
            {places.map((place) => (
              <li key={place.framing}>{placeOf(place)}</li>
            ))}
            {count > places.length && <li className="text-soft">and {count - places.length} more</li>}
          </ul>
        </details>
      )}
      {remedy && <p className="text-soft">{remedy}</p>}
      {concerned.map((row) => (
        <Settle key={row.id} {...{ notice, row, onChanged }} named={concerned.length > 1} />
      ))}
    </li>
  );
}

const placeOf = ({ clip, into, summary }: Notice["places"][number]) =>
  `${stemOf(clip)} → ${into}, ${summary}`;

type SettleProps = { notice: Notice; row: FrameRow; named: boolean; onChanged: () => void };

/** The change of one frame's file settings that settles a notice: a choice of bars, or a button. */
function Settle({ notice: { reason, fix }, row, named, onChanged }: SettleProps) {
  const { set, error } = useFileChange(row, onChanged);
  return (
    <>
      <ProblemNote error={error} />
      {reason === "bars_undecided" && <BarsChoice {...{ row, set }} />}
      {fix && (
        <Button
          look="link"
          className="justify-self-start"
          onClick={() => set(fix.settings as Partial<Settings>)}
        >
          {named ? `${row.frame.name}: ${fix.label}` : fix.label}
        </Button>
      )}
    </>
  );
}
