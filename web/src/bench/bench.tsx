import { type CSSProperties, type ReactNode, useLayoutEffect, useRef, useState } from "react";
import { Link, useLocation } from "react-router";
import type { Board, Footage, Framing, Measure, Plan } from "../api/client";
import { useBarsAsked } from "../frames/ask-bars";
import { useHistory } from "../history/history";
import { HistoryButtons } from "../history/history-buttons";
import { WalkedNote } from "../history/walked-note";
import { Header } from "../shell/header";
import { Button } from "../ui/button";
import { toNumber } from "../ui/exact";
import { HelpLink } from "../ui/help-link";
import { ProblemNote } from "../ui/problem-note";
import { CostPanel } from "./cost-panel";
import { ofShot } from "./editor/scope";
import { useExtension } from "./extending/use-extension";
import { nextDoubt } from "./following/follow";
import { useFollowing, useFollowingHand, useSized } from "./following/use-following";
import { IntoFrame, Neighbours } from "./into-frame";
import { useKeying } from "./keying/use-keying";
import { PanelEdge, usePanelWidth } from "./panel-edge";
import { useInterpretation } from "./panels/source/use-interpretation";
import { StepPanel } from "./panels/step-panel";
import { usePlayer } from "./playing/use-player";
import { RuleNote } from "./rule-note";
import { ShotBar } from "./shots/shot-bar";
import { follows, shotAt } from "./shots/shots";
import { useCutting } from "./shots/use-cutting";
import { usePath } from "./shots/use-path";
import { type StepName, Steps } from "./steps";
import { frameAt, moment } from "./timecode";
import { Lanes } from "./timeline/lanes";
import { Timeline } from "./timeline/timeline";
import { type Bench, useMeasureAt } from "./use-framing";
import { useBenchKeys } from "./use-keys";
import { useLooking } from "./use-looking";
import { useKeptMoment, usePlace } from "./use-place";
import { useRange } from "./use-range";
import { checkWords, useRenders } from "./use-renders";
import { type Transport, useRest, useTransport } from "./use-transport";
import { Waits } from "./well/waits";
import { Wells } from "./wells";

type Props = {
  board: Board;
  footage: Footage;
  framing: Framing;
  bench: Bench;
  plan: Plan;
  measure: Measure;
  error: unknown;
  trail: ReactNode;
};

/** Steps whose settings can belong to one shot. */
const OF_SHOTS: StepName[] = ["placement", "movement", "surround", "finish"];

/** The bench of one framing: its steps, its picture, and what can be done to it. */
export function BenchView({ board, footage, framing, bench, plan: whole, measure, error, trail }: Props) {
  const { editor, state, measured } = bench;
  const { change, commit, abandon } = editor;
  const { step, choose, first } = usePlace();
  const { frames, rate } = footage.timing;
  const transport = useTransport(frames, rate, first);
  useKeptMoment(transport);
  const player = usePlayer(transport, rate);
  const range = useRange(footage);
  const reading = useInterpretation(footage);
  const rendering = useRenders(board.id, framing.id);
  const finished = rendering.renders.find((render) => render.state === "done");
  const looking = useLooking(step, !(step === "check" && finished));

  const time = moment(useRest(transport), rate);
  const [inShot, setInShot] = useState(true);
  const [alone, setAlone] = useState(false);
  const shot = shotAt(whole, time);
  const plan = inShot ? ofShot(whole, shot) : whole;
  const standing = editor.standing(framing.plan);
  const here = useMeasureAt(framing.id, whole, measure, time);
  const shown = { plan, measure: here, measured, change, commit, abandon };
  const hand = useFollowingHand();
  const keying = useKeying(framing.id, footage, shown, { standing, step, shot, time }, hand.shifting);
  const sized = useSized(framing.id, keying.base, commit);
  const editing = { ...shown, plan: keying.base, commit: sized };
  const following = useFollowing(framing.id, footage, keying.base, time, commit);
  const path = usePath(framing.id, keying.base);
  const extension = useExtension(framing.id, keying.base, time, commit);
  const cutting = useCutting(framing.id, standing, commit);
  const cut = whole.shots.length > 0;

  const history = useHistory(board.id, framing.id);

  const { search } = useLocation();
  const bars = useBarsAsked(board);
  const orderRender = () => bars.before([framing.frame], () => rendering.order.mutate());
  function orderAndLook() {
    bars.before([framing.frame], () => {
      rendering.order.mutate();
      choose("check");
    });
  }

  useBenchKeys(transport, range, {
    choose,
    wholeScreen: () => looking.setOnScreen(!looking.onScreen),
    nextDoubt: () => goToDoubt(transport, whole, rate),
    tint: looking.tint,
    scopes: looking.lookAtScopes,
    lookFull: looking.lookFull,
    render: orderAndLook,
  });

  return (
    <div className="flex h-full min-h-[600px] narrow:h-auto narrow:min-h-full flex-col overflow-hidden narrow:overflow-visible">
      <Header projectId={board.id} trail={trail}>
        <Neighbours board={board} framing={framing} step={step} />
        {/* Changes that are not stored yet can be undone too; after them nothing can be redone. */}
        <HistoryButtons
          undo={state.last ?? history.undo}
          redo={state.last ? null : history.redo}
          onWalk={(way) => editor[way]()}
        />
        <IntoFrame board={board} framing={framing} />
        <Link
          className="whitespace-nowrap text-soft hover:text-ink"
          to={`/projects/${board.id}/framings/${framing.id}/lineup${search}`}
        >
          Line-up
        </Link>
        <Button look="main" disabled={rendering.order.isPending} onClick={orderAndLook}>
          Render
        </Button>
      </Header>
      <div className="flex min-h-0 grow narrow:flex-col">
        <div className="flex w-36 narrow:w-full shrink-0 flex-col justify-between narrow:border-r-0 border-rule border-r narrow:border-b">
          <Steps measure={here} checked={checkWords(rendering.renders)} current={step} onChoose={choose} />
          <RuleNote framing={framing} />
        </div>
        <main
          id="main"
          tabIndex={-1}
          className="relative flex narrow:h-[64vw] narrow:max-h-[56vh] narrow:min-h-72 min-w-0 narrow:flex-none grow outline-none"
        >
          <Wells
            {...{
              footage,
              framing,
              step,
              finished,
              shown,
              keying,
              path,
              alone,
              transport,
              player,
              range,
              looking,
              reading,
              following,
              hand,
            }}
          />
        </main>
        <Panel step={step} foot={step !== "source" && step !== "check" && <CostPanel measure={here} />}>
          <Waits editor={editor} state={state} />
          <WalkedNote />
          <ProblemNote error={error ?? rendering.order.error} />
          {cut && OF_SHOTS.includes(step) && (
            <ShotBar
              plan={whole}
              number={shot}
              {...{ inShot, time, alone, cutting }}
              onInShot={setInShot}
              onAlone={setAlone}
            />
          )}
          <StepPanel
            {...{
              step,
              board,
              footage,
              framing,
              editing,
              editor,
              time,
              transport,
              looking,
              reading,
              cutting,
              cut,
              whole,
              following,
              hand,
              rendering: { ...rendering, request: orderRender },
              extension,
              range,
            }}
          />
          <HelpLink task={helpOn(step, plan)}>Help on this step</HelpLink>
        </Panel>
      </div>
      {bars.question}
      <Timeline
        footage={footage}
        aspect={here.display_aspect}
        {...{ transport, range, player }}
        lanes={
          <Lanes
            {...{ footage, transport, whole, path, commit, cutting, following }}
            plan={keying.base}
            number={shot}
          />
        }
      />
    </div>
  );
}

/** The page of the help that a step's questions are answered on. */
function helpOn(step: StepName, plan: Plan): string {
  if (step === "frame") return "bars";
  if (step === "movement" && follows(plan.motion)) return "following";
  if (step === "surround" && plan.surround.kind === "extended") return "extending";
  return step;
}

/**
 * The settings of a step, at the scroll position where they were left. Parts that change height stay at the
 * foot, so that nothing moves under the hand.
 */
function Panel({ step, foot, children }: { step: StepName; foot: ReactNode; children: ReactNode }) {
  const [width] = usePanelWidth();
  const place = useRef<HTMLDivElement>(null);
  const left = useRef<Partial<Record<StepName, number>>>({});
  useLayoutEffect(() => {
    if (place.current) place.current.scrollTop = left.current[step] ?? 0;
  }, [step]);
  return (
    <aside
      aria-label="Settings of this step"
      className="relative flex w-(--panel) narrow:w-full shrink-0 flex-col narrow:border-l-0 border-rule border-l narrow:border-t"
      style={{ "--panel": `${width}px` } as CSSProperties}
    >
      <PanelEdge />
      <div
        ref={place}
        data-panel
        tabIndex={-1}
        className="grid outline-none min-h-0 grow narrow:h-auto content-start gap-4 overflow-y-auto p-4"
        onScroll={({ currentTarget }) => {
          left.current[step] = currentTarget.scrollTop;
        }}
      >
        {children}
      </div>
      {foot && (
        <div className="max-h-1/2 shrink-0 overflow-y-auto border-rule border-t px-4 py-2.5">{foot}</div>
      )}
    </aside>
  );
}

/** Go to the next place where a window that follows may be wrong. */
function goToDoubt(transport: Transport, plan: Plan, rate: string) {
  const doubt = nextDoubt(plan, (transport.frame + 0.5) / toNumber(rate));
  if (doubt) transport.go(frameAt(doubt.start, rate));
}
