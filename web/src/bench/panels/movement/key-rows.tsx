import type { Motion } from "../../../api/client";
import { useChoices } from "../../../api/use-choices";
import { Button } from "../../../ui/button";
import { toExact, toNumber } from "../../../ui/exact";
import { NumberField } from "../../../ui/number-field";
import { TickRow } from "../../../ui/tick-row";
import { useBench } from "../../state/use-bench";
import { frameAt, timecode } from "../../timecode";

type Key = Motion["keys"][number];

const CURVE = "curve";
type Value = "x" | "y" | "tightness" | "angle";
const HANDLES = [
  ["x1", "Begins, in parts of the time,", 0, 1],
  ["y1", "Begins, in parts of the way,", -1, 2],
  ["x2", "Ends, in parts of the time,", 0, 1],
  ["y2", "Ends, in parts of the way,", -1, 2],
] as const;

/** The keyframes in order of time: position, size and speed curve. */
export function KeyRows() {
  const { plan, commit } = useBench("plan", "commit");
  const { motion } = plan;
  if (motion.keys.length === 0) return null;

  function put(index: number, fields: Partial<Key> | null, label: string) {
    const keys = motion.keys.flatMap((key, at) =>
      at !== index ? [key] : fields ? [{ ...key, ...fields }] : [],
    );
    commit({ ...plan, motion: { ...motion, keys } }, label);
  }

  return (
    <>
      <ol className="grid gap-2" aria-label="Keys">
        {motion.keys.map((key, index) => (
          <KeyRow key={key.time} of={key} put={(fields, label) => put(index, fields, label)} />
        ))}
      </ol>
      <TickRow
        ticked={motion.inside}
        onChange={(inside) =>
          commit({ ...plan, motion: { ...motion, inside } }, inside ? "Held inside" : "Not held inside")
        }
      >
        Keep the window inside the picture
      </TickRow>
    </>
  );
}

type RowProps = { of: Key; put: (fields: Partial<Key> | null, label: string) => void };

function KeyRow({ of, put }: RowProps) {
  const { rate, transport } = useBench("rate", "transport");
  const { key_eases, curve } = useChoices();
  const frame = frameAt(of.time, rate);
  const name = timecode(frame, rate);
  return (
    <li
      className={`grid gap-1.5 border-l-3 pl-3 ${frame === transport.frame ? "border-ochre" : "border-rule"}`}
      aria-label={`Keyframe at ${name}`}
    >
      <div className="flex items-center gap-2">
        <button
          type="button"
          className="num grow text-left underline decoration-rule underline-offset-4 hover:decoration-ink"
          onClick={() => transport.go(frame)}
        >
          {name}
        </button>
        <select
          aria-label={`Curve after ${name}`}
          className="rounded border border-edge bg-sheet px-1.5 py-0.5"
          value={of.handles ? CURVE : of.ease}
          onChange={({ target }) => put(easeNamed(target.value, curve), "Ease")}
        >
          {key_eases.map(({ value: ease, title }) => (
            <option key={ease} value={ease}>
              {title}
            </option>
          ))}
        </select>
        <button
          type="button"
          aria-label={`Remove the keyframe at ${name}`}
          className="text-soft hover:text-ink"
          onClick={() => put(null, "Key removed")}
        >
          Remove
        </button>
      </div>
      <Numbers name={name} of={of} onSet={(fields) => put(fields, "Key set")} />
      {of.handles && <Curve name={name} of={of.handles} onSet={(handles) => put({ handles }, "Curve")} />}
    </li>
  );
}

const easeNamed = (name: string, curve: Key["handles"]): Partial<Key> =>
  name === CURVE ? { handles: curve } : { ease: name as Key["ease"], handles: null };

type NumbersProps = {
  name: string;
  of: Key;
  onSet: (fields: Partial<Key>) => void;
};

/** The values of a keyframe, each of which can be left to its neighbours. */
const GROUPS: { title: string; values: Value[] }[] = [
  { title: "place", values: ["x", "y"] },
  { title: "size", values: ["tightness"] },
  { title: "angle", values: ["angle"] },
];

function Numbers({ name, of, onSet }: NumbersProps) {
  const { key_values } = useChoices();
  const set = GROUPS.filter(({ values }) => values.every((value) => of[value] != null));
  return (
    <div className="grid grid-cols-2 gap-2">
      {key_values.map(({ value, title, unit, times, low, high }) => {
        const number = of[value];
        return (
          number != null && (
            <NumberField
              key={value}
              label={`${title} at ${name}`}
              {...{ unit, step: 1, decimals: 1 }}
              low={toNumber(low)}
              high={toNumber(high)}
              value={toNumber(number) * times}
              onCommit={(given) => onSet({ [value]: toExact(given / times, 6) })}
            />
          )
        );
      })}
      {set.length > 1 && (
        <p className="col-span-2 flex gap-3 text-soft">
          Leave out
          {set.map(({ title, values }) => (
            <Button
              look="link"
              key={title}
              aria-label={`Leave out the ${title} at ${name}`}
              onClick={() => onSet(Object.fromEntries(values.map((value) => [value, null])))}
            >
              {title}
            </Button>
          ))}
        </p>
      )}
    </div>
  );
}

type Handles = NonNullable<Key["handles"]>;

function Curve({ name, of, onSet }: { name: string; of: Handles; onSet: (handles: Handles) => void }) {
  return (
    <div className="grid grid-cols-4 gap-1">
      {HANDLES.map(([handle, label, low, high]) => (
        <NumberField
          key={handle}
          label={`${label} at ${name}`}
          {...{ unit: "", low, high, step: 0.05, decimals: 2 }}
          value={toNumber(of[handle])}
          onCommit={(value) => onSet({ ...of, [handle]: toExact(value, 4) })}
        />
      ))}
    </div>
  );
}
