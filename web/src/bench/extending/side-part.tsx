import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Plan, unwrap } from "../../api/client";
import { titleOf, useChoices } from "../../api/use-choices";
import { Button } from "../../ui/button";
import { toExact, toNumber } from "../../ui/exact";
import { SliderRow } from "../../ui/slider-row";
import { asked } from "../editor/scope";
import { useActivity } from "../state/activity";
import { useBench } from "../state/use-bench";
import { usePosted } from "./posted-image";
import { ON_ITS_WAY, type PlateSide, type Side, useExtension } from "./use-extension";

const FIRST = 4;
const WIDTH = 320;
const POLL_MS = 600;
const COLOURS = { fits: "text-moss", doubtful: "text-ochre", unfit: "text-rust" };

/** One side: whether it fits, the ways in which it can go on as real pictures, and how soft it grows. */
export function SidePart({ side }: { side: Side }) {
  const { commit } = useBench("commit");
  const extension = useExtension();
  const { extended, state } = extension;
  const how = extended?.[side] ?? null;
  const verdict = state?.verdict?.sides[side];
  const Title = side[0]?.toUpperCase() + side.slice(1);
  const set = (given: Partial<PlateSide>) =>
    extension.with({ [side]: { way: "completed", variant: 0, melt: "0.3", reach: null, ...how, ...given } });
  return (
    <section aria-label={`${Title} side`} className="grid content-start gap-1.5 border-t border-rule pt-2">
      <SideHeading
        title={Title}
        on={how !== null}
        verdict={verdict?.verdict}
        onSwitch={(on) => commit(on ? set({}) : extension.with({ [side]: null }), `${Title} extended`)}
      />
      {verdict && <p className="text-[12px] leading-4 text-soft">{verdict.summary}</p>}
      {how && (
        <>
          {how.way === "completed" && (
            <Variants
              side={side}
              chosen={how.variant}
              onChoose={(variant) => commit(set({ variant }), `${Title}: another way`)}
            />
          )}
          <div className="flex">
            {(["completed", "mirrored"] as const).map((way) => (
              <button
                key={way}
                type="button"
                aria-pressed={how.way === way}
                className={`grow border border-rule px-1.5 py-0.5 ${how.way === way ? "bg-ink text-paper" : "bg-sheet hover:border-soft"}`}
                onClick={() => commit(set({ way }), `${Title}: ${way}`)}
              >
                {way}
              </button>
            ))}
          </div>
          <SliderRow
            label="Blend"
            value={toNumber(how.melt)}
            unit="%"
            low={0}
            high={10}
            step={0.1}
            initial={0.3}
            onChange={() => undefined}
            onCommit={(melt) => commit(set({ melt: toExact(melt, 1) }), `${Title}: melt`)}
          />
        </>
      )}
    </section>
  );
}

type HeadingProps = {
  title: string;
  on: boolean;
  verdict: keyof typeof COLOURS | undefined;
  onSwitch: (on: boolean) => void;
};

function SideHeading({ title, on, verdict, onSwitch }: HeadingProps) {
  const { verdicts_of_sides } = useChoices();
  return (
    <p className="flex items-baseline justify-between gap-2">
      <label className="flex items-baseline gap-2 font-semibold">
        <input
          type="checkbox"
          className="accent-ochre"
          checked={on}
          onChange={({ target }) => onSwitch(target.checked)}
        />
        {title}
      </label>
      {verdict && <span className={COLOURS[verdict]}>{titleOf(verdicts_of_sides, verdict)}</span>}
    </p>
  );
}

type VariantsProps = { side: Side; chosen: number; onChoose: (variant: number) => void };

/** Ways in which a side can go on, each as the frame would be. */
function Variants({ side, chosen, onChoose }: VariantsProps) {
  const { framingId, plan, time, stamp } = useBench("framingId", "plan", "time", "stamp");
  const [count, setCount] = useState(Math.max(FIRST, chosen + 1));
  const body = { ...asked(plan), time, side };
  const plays = useActivity(({ playing }) => playing);
  const { data } = useQuery({
    queryKey: ["variants", framingId, side, time, count, neutral(plan, side)],
    enabled: !plays,
    placeholderData: (before) => before,
    gcTime: 60_000,
    refetchInterval: ({ state }) =>
      !state.data || state.data.some(({ plate }) => ON_ITS_WAY.includes(plate.state)) ? POLL_MS : false,
    queryFn: () => everyVariant(framingId, body, count),
  });
  return (
    <>
      <div className="grid grid-cols-2 gap-1.5">
        {(data ?? []).map(({ variant, plate }) => (
          <VariantPicture
            key={variant}
            address={`/api/framings/${framingId}/extension/variant`}
            body={{ ...body, variant, width: WIDTH }}
            stamp={`${stamp} ${plate.id} ${plate.state}`}
            there={plate.state === "done"}
            words={plate.state === "done" ? "" : plate.problem || `${plate.done_percent}%`}
            label={`${side}, way ${variant + 1}`}
            chosen={variant === chosen}
            onChoose={() => onChoose(variant)}
          />
        ))}
      </div>
      <Button look="link" className="justify-self-start" onClick={() => setCount(count + FIRST)}>
        {FIRST} more options
      </Button>
    </>
  );
}

/** As many at a time as are made together. */
async function everyVariant(framingId: number, body: object, count: number) {
  const params = { path: { framing_id: framingId } };
  const found = [];
  for (let first = 0; first < count; first += FIRST) {
    const part = { ...body, first, count: Math.min(FIRST, count - first) };
    found.push(
      ...(await unwrap(
        api.POST("/api/framings/{framing_id}/extension/variants", { params, body: part as never }),
      )),
    );
  }
  return found;
}

/** What the ways of a side depend on: all but which of them is chosen, and what the clip is found to be meanwhile. */
function neutral(plan: Plan, side: Side): string {
  const { design } = asked(plan);
  const surround = { ...design.surround, [side]: null };
  return JSON.stringify({ ...design, surround, finish: null, taken: plan.interpretation });
}

type PictureProps = {
  address: string;
  body: object;
  stamp: string;
  there: boolean;
  words: string;
  label: string;
  chosen: boolean;
  onChoose: () => void;
};

function VariantPicture({ address, body, stamp, there, words, label, chosen, onChoose }: PictureProps) {
  const url = usePosted(address, there ? body : null, stamp);
  return (
    <button
      type="button"
      aria-label={label}
      aria-pressed={chosen}
      className={`relative flex h-20 items-center justify-center overflow-hidden rounded border-2 bg-well ${chosen ? "border-ochre" : "border-rule hover:border-soft"}`}
      onClick={(event) => {
        // Chosen by hand, the space bar is for playing it.
        if (event.detail > 0) event.currentTarget.blur();
        onChoose();
      }}
    >
      {url ? (
        <img alt="" className="max-h-full max-w-full" src={url} />
      ) : (
        <span className="num px-1 text-[12px] text-chalk">{words || "…"}</span>
      )}
    </button>
  );
}
