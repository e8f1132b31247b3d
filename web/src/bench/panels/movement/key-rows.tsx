import type { Footage, Motion } from "../../../api/client";
import { toExact, toNumber } from "../../../api/exact";
import { NumberField } from "../../../ui/number-field";
import { frameAt, timecode } from "../../timecode";
import type { Editing } from "../../use-framing";
import type { Transport } from "../../use-transport";

type Key = Motion["keys"][number];
type Props = Editing & { footage: Footage; transport: Transport };

const EASES = ["smooth", "even", "hold"] as const;

/** The keys, in the order of time: where each looks, how large, how it goes on. */
export function KeyRows({ footage, transport, plan, measure, commit }: Props) {
  const { motion } = plan;
  const { rate } = footage.timing;
  if (motion.keys.length === 0) return null;

  function put(index: number, fields: Partial<Key> | null, label: string) {
    const keys = motion.keys.flatMap((key, at) =>
      at !== index ? [key] : fields ? [{ ...key, ...fields }] : [],
    );
    commit({ ...plan, motion: { ...motion, keys } }, label);
  }

  return (
    <ol className="grid gap-2" aria-label="Keys">
      {motion.keys.map((key, index) => {
        const name = timecode(frameAt(key.time, rate), rate);
        const here = frameAt(key.time, rate) === transport.frame;
        return (
          <li
            key={key.time}
            className={`grid gap-1.5 border-l-3 pl-3 ${here ? "border-ochre" : "border-rule"}`}
            aria-label={`Key at ${name}`}
          >
            <div className="flex items-center gap-2">
              <button
                type="button"
                className="num grow text-left underline decoration-rule underline-offset-4 hover:decoration-ink"
                onClick={() => transport.go(frameAt(key.time, rate))}
              >
                {name}
              </button>
              <select
                aria-label={`How it goes on from ${name}`}
                className="rounded border border-rule bg-sheet px-1.5 py-0.5"
                value={key.ease}
                onChange={({ target }) => put(index, { ease: target.value as Key["ease"] }, "Ease")}
              >
                {EASES.map((ease) => (
                  <option key={ease}>{ease}</option>
                ))}
              </select>
              <button
                type="button"
                className="text-soft hover:text-ink"
                onClick={() => put(index, null, "Key removed")}
              >
                Remove
              </button>
            </div>
            <div className="grid grid-cols-3 gap-2">
              {key.x != null && (
                <NumberField
                  label={`Across at ${name}, % of the picture from its middle`}
                  {...{ unit: "% →", low: -10000, high: 10000, step: 1, decimals: 1 }}
                  value={toNumber(key.x) * 100}
                  onCommit={(percent) => put(index, { x: toExact(percent / 100, 6) }, "Key moved")}
                />
              )}
              {key.y != null && (
                <NumberField
                  label={`Down at ${name}, % of the picture from its middle`}
                  {...{ unit: "% ↓", low: -10000, high: 10000, step: 1, decimals: 1 }}
                  value={toNumber(key.y) * 100}
                  onCommit={(percent) => put(index, { y: toExact(percent / 100, 6) }, "Key moved")}
                />
              )}
              {key.tightness != null && (
                <NumberField
                  label={`Tightness at ${name}, %`}
                  {...{ unit: "% tight", low: 0, high: measure.limits.tightness * 100, step: 1, decimals: 1 }}
                  value={toNumber(key.tightness) * 100}
                  onCommit={(percent) => put(index, { tightness: toExact(percent / 100, 6) }, "Key sized")}
                />
              )}
            </div>
          </li>
        );
      })}
    </ol>
  );
}
