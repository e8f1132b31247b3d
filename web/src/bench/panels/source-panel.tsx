import { useMutation, useQueryClient } from "@tanstack/react-query";
import { answered, api, type Footage, type Interpretation } from "../../api/client";
import { shown, toNumber } from "../../api/exact";
import { refreshFramings } from "../../api/queries";
import { NumberField } from "../../ui/number-field";
import { ProblemNote } from "../../ui/problem-note";

const TURNS = [null, 0, 90, 180, 270] as const;

/** What the clip really is, why, and what it is taken to be. */
export function SourcePanel({ footage, time }: { footage: Footage; time: string }) {
  const { interpretation, facts } = footage;
  const client = useQueryClient();
  const interpret = useMutation({
    mutationFn: (body: Interpretation) =>
      answered(
        api.PUT("/api/footage/{footage_id}/interpretation", {
          params: { path: { footage_id: footage.id } },
          body,
        }),
      ),
    onSettled: () => refreshFramings(client),
  });
  const used = interpretation.pixel_aspect ?? facts.pixel_aspect ?? "1";

  return (
    <section aria-label="Source" className="grid gap-3">
      <h2 className="font-semibold">Source</h2>
      <p className="text-soft">Choose the picture whose wheels and clocks are round.</p>
      <ul className="grid grid-cols-2 gap-2">
        {footage.candidates.map(({ pixel_aspect, shape, evidence }) => (
          <li key={pixel_aspect}>
            <button
              type="button"
              aria-pressed={toNumber(used) === toNumber(pixel_aspect)}
              onClick={() => interpret.mutate({ ...interpretation, pixel_aspect })}
              className={`flex h-full w-full flex-col overflow-hidden rounded border-2 bg-sheet text-left ${
                toNumber(used) === toNumber(pixel_aspect) ? "border-ochre" : "border-rule hover:border-soft"
              }`}
            >
              <span className="flex h-20 w-full shrink-0 items-center justify-center bg-well">
                <img
                  alt={`The clip with pixels of ${ratio(pixel_aspect)}`}
                  className="max-h-full max-w-full"
                  src={`/api/footage/${footage.id}/picture?width=200&time=${encodeURIComponent(time)}&pixel_aspect=${encodeURIComponent(pixel_aspect)}`}
                />
              </span>
              <span className="block px-1.5 py-1 text-[12px] leading-4">
                <span className="num block">
                  {ratio(pixel_aspect)}, {shape}
                </span>
                <span className="block text-soft">{evidence.join("; ")}</span>
              </span>
            </button>
          </li>
        ))}
      </ul>
      <div className="grid grid-cols-[92px_1fr] items-center gap-y-2">
        <span>Own aspect</span>
        <NumberField
          label="Pixel aspect of its own"
          {...{ unit: "×", low: 0.1, high: 10, step: 0.01, decimals: 4 }}
          value={toNumber(used)}
          onCommit={(value) => interpret.mutate({ ...interpretation, pixel_aspect: String(value) })}
        />
        <label htmlFor="turn">Turned</label>
        <select
          id="turn"
          className="rounded border border-rule bg-sheet px-2 py-1"
          value={interpretation.rotation ?? ""}
          onChange={({ target }) =>
            interpret.mutate({
              ...interpretation,
              rotation: TURNS.find((turn) => String(turn ?? "") === target.value) ?? null,
            })
          }
        >
          {TURNS.map((turn) => (
            <option key={String(turn)} value={turn ?? ""}>
              {turn === null ? `as its flag says, ${facts.rotation}°` : `${turn}° clockwise`}
            </option>
          ))}
        </select>
      </div>
      <ProblemNote error={interpret.error} />
      <dl className="grid grid-cols-[92px_1fr] gap-y-1.5 border-t border-rule pt-3">
        {footage.described.map(({ name, says }) => (
          <div key={`${name} ${says}`} className="contents">
            <dt className="text-soft">{name}</dt>
            <dd className="num break-words">{says}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}

/** A pixel aspect as people write it. */
function ratio(exact: string): string {
  return exact.includes("/") ? exact.replace("/", ":") : shown(exact, 4) === "1" ? "square" : shown(exact, 4);
}
