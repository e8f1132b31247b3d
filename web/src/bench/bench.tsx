import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { Link, useSearchParams } from "react-router";
import {
  api,
  type Board,
  type Footage,
  type Framing,
  type Measure,
  type Plan,
  type Render,
  unwrap,
} from "../api/client";
import { rendersQuery } from "../api/queries";
import { IN_ORDER } from "../api/saves";
import { TreatmentsFold } from "../treatments/treatments-fold";
import { Button } from "../ui/button";
import { Header } from "../ui/header";
import { ProblemNote } from "../ui/problem-note";
import { CostPanel } from "./cost-panel";
import type { PlanEditor } from "./editor/plan-editor";
import { ofShot } from "./editor/scope";
import { IntoFrame, Neighbours } from "./into-frame";
import { KeyingQuestion } from "./keying/keying-question";
import { useKeying } from "./keying/use-keying";
import { CheckPanel } from "./panels/check-panel";
import { FinishPanel } from "./panels/finish-panel";
import { FramePanel } from "./panels/frame-panel";
import { MovementPanel } from "./panels/movement-panel";
import { PlacementPanel } from "./panels/placement-panel";
import { useInterpretation } from "./panels/source/use-interpretation";
import { SourcePanel } from "./panels/source-panel";
import { SurroundPanel } from "./panels/surround-panel";
import { usePlayer } from "./playing/use-player";
import { useWholeScreen, WholeScreen } from "./playing/whole-screen";
import { ResultWell } from "./result-well";
import { RuleNote } from "./rule-note";
import { ShotBar } from "./shots/shot-bar";
import { shotAt } from "./shots/shots";
import { useCutting } from "./shots/use-cutting";
import { usePath } from "./shots/use-path";
import { STEPS, type StepName, Steps } from "./steps";
import { moment } from "./timecode";
import { Lanes } from "./timeline/lanes";
import { Timeline } from "./timeline/timeline";
import { type Bench, useMeasureAt } from "./use-framing";
import { useHeld } from "./use-held";
import { useKeys } from "./use-keys";
import { useRange } from "./use-range";
import { useRest, useTransport } from "./use-transport";
import { SourceWell } from "./well/source-well";
import { Waits } from "./well/waits";
import { Well } from "./well/well";
import { WellBar } from "./well/well-bar";

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

/** The bench of one framing: its steps, its picture, and what can be done to it. */
export function BenchView({ board, footage, framing, bench, plan: whole, measure, error, trail }: Props) {
  const { editor, state, measured } = bench;
  const { change, commit, abandon, undo, redo } = editor;
  const [step, choose] = useStep();
  const transport = useTransport(footage.timing.frames, footage.timing.rate);
  const player = usePlayer(transport, footage.timing.rate);
  const time = moment(useRest(transport), footage.timing.rate);
  const [inShot, setInShot] = useState(true);
  const shot = shotAt(whole, time);
  const plan = inShot ? ofShot(whole, shot) : whole;
  const cutting = useCutting(framing.id, whole, commit);
  const shown = {
    plan,
    measure: useMeasureAt(framing.id, whole, measure, time),
    measured,
    change,
    commit,
    abandon,
  };
  const keying = useKeying(framing.id, footage, shown, time, shot);
  const editing = { ...shown, plan: keying.base };
  const path = usePath(framing.id, keying.base);
  const range = useRange(footage);
  const { renders, order } = useRenders(board.id, framing.id, editor);
  const finished = renders.find((render) => render.state === "done");
  const [onScreen, setOnScreen] = useWholeScreen(!(step === "check" && finished));
  useKeys(transport, range, { undo, redo, f: () => setOnScreen(!onScreen) });
  const [surroundOff] = useHeld("b");
  const [hidden] = useHeld("h");
  const [outside, setOutside] = useState(false);
  const [compared, setCompared] = useState(false);
  const [straightening, setStraightening] = useState(false);
  const reading = useInterpretation(footage);
  const [onSource, setOnSource] = useOnSource(step);
  const framingId = framing.id;

  const ofShots = whole.shots.length > 0 && step !== "source" && step !== "frame" && step !== "check";

  // What is not stored yet can be taken back as well, and leaves nothing to be done again.
  const undoes = state.last ?? framing.undo;
  const redoes = state.last ? null : framing.redo;

  function orderAndLook() {
    order.mutate();
    choose("check");
  }

  return (
    <div className="flex h-full min-h-[600px] flex-col overflow-hidden">
      <Header projectId={board.id} trail={trail}>
        <Neighbours board={board} framing={framing} step={step} />
        <Button look="quiet" disabled={!undoes} title={undoes ?? undefined} onClick={undo}>
          Undo
        </Button>
        <Button look="quiet" disabled={!redoes} title={redoes ?? undefined} onClick={redo}>
          Redo
        </Button>
        <IntoFrame board={board} framing={framing} step={step} />
        <Link
          className="whitespace-nowrap text-soft hover:text-ink"
          to={`/projects/${board.id}/framings/${framing.id}/lineup`}
        >
          Line-up
        </Link>
        <Button look="main" disabled={order.isPending} onClick={orderAndLook}>
          Render
        </Button>
      </Header>
      <div className="flex min-h-0 grow">
        <div className="flex w-36 shrink-0 flex-col justify-between border-r border-rule">
          <Steps measure={editing.measure} checked={checkWords(renders)} current={step} onChoose={choose} />
          <RuleNote framing={framing} editor={editor} />
        </div>
        <div className="relative flex min-w-0 grow">
          {step === "check" && finished ? (
            <ResultWell key={finished.id} render={finished} footage={footage} />
          ) : (
            <>
              {onScreen ? (
                <WholeScreen
                  {...{ framingId, plan, footage, transport, player }}
                  onClose={() => setOnScreen(false)}
                />
              ) : onSource ? (
                <SourceWell
                  {...shown}
                  hand={keying.hand}
                  framingId={framingId}
                  footage={footage}
                  transport={transport}
                  player={player}
                  rate={footage.timing.rate}
                  path={path}
                  onBars={step === "source" ? (burned_in_bars) => reading.say({ burned_in_bars }) : null}
                />
              ) : (
                <Well
                  {...shown}
                  hand={keying.hand}
                  framingId={framingId}
                  frameId={framing.frame}
                  footage={footage}
                  transport={transport}
                  player={player}
                  rate={footage.timing.rate}
                  surroundOff={surroundOff}
                  compared={compared}
                  titles={step === "finish"}
                  outside={outside || hidden}
                  straightening={straightening}
                  onStraightened={() => setStraightening(false)}
                />
              )}
              <KeyingQuestion keying={keying} />
              <WellBar
                onSource={onSource}
                onView={setOnSource}
                outside={outside}
                onOutside={() => setOutside(!outside)}
                compared={compared}
                onCompare={() => setCompared(!compared)}
                onWhole={() => setOnScreen(true)}
                keying={keying}
              />
            </>
          )}
        </div>
        <aside className="grid w-[312px] shrink-0 content-start gap-5 overflow-y-auto border-l border-rule p-4">
          <Waits editor={editor} state={state} />
          <ProblemNote error={error ?? order.error} />
          {ofShots && (
            <ShotBar plan={whole} number={shot} onInShot={setInShot} {...{ inShot, time, cutting }} />
          )}
          {step !== "source" && step !== "check" && <CostPanel measure={editing.measure} />}
          {step === "source" && <SourcePanel {...{ footage, time, reading }} go={transport.go} />}
          {step === "frame" && <FramePanel board={board} framing={framing} measure={editing.measure} />}
          {step === "placement" && (
            <PlacementPanel
              {...editing}
              framingId={framingId}
              time={time}
              straightening={straightening}
              onStraighten={(on) => {
                setOnSource(false);
                setStraightening(on);
              }}
            />
          )}
          {step === "movement" && (
            <MovementPanel
              {...editing}
              {...{ framingId, footage, time, transport, cutting }}
              cut={whole.shots.length > 0}
            />
          )}
          {step === "surround" && (
            <>
              <SurroundPanel {...editing} {...{ projectId: board.id, framingId, footage, time }} />
              <TreatmentsFold
                projectId={board.id}
                framing={framing}
                plan={plan}
                time={time}
                editor={editor}
              />
            </>
          )}
          {step === "finish" && (
            <FinishPanel {...editing} {...{ projectId: board.id, framingId, footage, time }} />
          )}
          {step === "check" && (
            <CheckPanel
              renders={renders}
              projectId={board.id}
              ordering={order.isPending}
              onOrder={() => order.mutate()}
            />
          )}
        </aside>
      </div>
      <Timeline
        footage={footage}
        aspect={editing.measure.display_aspect}
        {...{ transport, range, player }}
        lanes={
          <Lanes {...{ footage, transport, whole, plan: keying.base, path, commit, cutting }} number={shot} />
        }
      />
    </div>
  );
}

function useStep(): [StepName, (step: StepName) => void] {
  const [query, setQuery] = useSearchParams();
  const asked = query.get("step") as StepName;
  return [STEPS.includes(asked) ? asked : "placement", (step) => setQuery({ step }, { replace: true })];
}

/** Which of the two views is open; the step Source begins with the source, every other with the frame. */
function useOnSource(step: StepName): [boolean, (onSource: boolean) => void] {
  const [chosen, setChosen] = useState<{ step: StepName; onSource: boolean } | null>(null);
  const onSource = chosen?.step === step ? chosen.onSource : step === "source";
  return [onSource, (next) => setChosen({ step, onSource: next })];
}

function useRenders(projectId: number, framingId: number, editor: PlanEditor) {
  const client = useQueryClient();
  const { data } = useQuery(rendersQuery(projectId));
  const order = useMutation({
    scope: IN_ORDER,
    mutationFn: async () => {
      await editor.flush(); // what is seen is what is ordered
      return unwrap(
        api.POST("/api/framings/{framing_id}/renders", { params: { path: { framing_id: framingId } } }),
      );
    },
    onSettled: () => client.invalidateQueries({ queryKey: ["renders", projectId] }),
  });
  return { renders: data?.filter((render) => render.framing === framingId) ?? [], order };
}

function checkWords(renders: Render[]): string {
  const newest = renders[0];
  if (!newest) return "not rendered";
  if (newest.state !== "done") return newest.state;
  if (!newest.current) return "changed since";
  return newest.report?.right ? "right" : "wrong";
}
