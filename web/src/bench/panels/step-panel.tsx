import { type CSSProperties, type ReactNode, useLayoutEffect, useRef } from "react";
import type { Plan } from "../../api/client";
import { WalkedNote } from "../../history/walked-note";
import { HelpLink } from "../../ui/help-link";
import { ProblemNote } from "../../ui/problem-note";
import { CostPanel } from "../cost-panel";
import { PanelEdge, usePanelWidth } from "../panel-edge";
import { SaveStatus } from "../save-status";
import { ShotBar } from "../shots/shot-bar";
import { follows } from "../shots/shots";
import { useBench } from "../state/use-bench";
import type { StepName } from "../steps";
import { TreatmentsFold } from "../treatments/treatments-fold";
import { CheckPanel } from "./check-panel";
import { FilePanel } from "./file-panel";
import { FinishPanel } from "./finish-panel";
import { FramePanel } from "./frame-panel";
import { MovementPanel } from "./movement-panel";
import { PlacementPanel } from "./placement-panel";
import { SourcePanel } from "./source-panel";
import { SurroundPanel } from "./surround-panel";

/** Steps whose settings can belong to one shot. */
const OF_SHOTS: StepName[] = ["placement", "movement", "surround", "finish"];
/** Steps that change nothing about the cost of the framing. */
const WITHOUT_COST: StepName[] = ["source", "file", "check"];

const PANELS: Record<StepName, () => ReactNode> = {
  source: SourcePanel,
  frame: FramePanel,
  placement: PlacementPanel,
  movement: MovementPanel,
  surround: () => (
    <>
      <SurroundPanel />
      <TreatmentsFold />
    </>
  ),
  finish: FinishPanel,
  file: FilePanel,
  check: CheckPanel,
};

/** The settings of the step, below messages about the framing. */
export function StepPanel() {
  const { step, wholePlan, shownPlan, edits, problem } = useBench(
    "step",
    "wholePlan",
    "shownPlan",
    "edits",
    "problem",
  );
  const Settings = PANELS[step];
  return (
    <Panel step={step} foot={!WITHOUT_COST.includes(step) && <CostPanel />}>
      <SaveStatus />
      <WalkedNote />
      <ProblemNote error={problem ?? edits.problem} />
      {wholePlan.shots.length > 0 && OF_SHOTS.includes(step) && <ShotBar />}
      <Settings />
      <HelpLink task={helpOn(step, shownPlan)}>Help on this step</HelpLink>
    </Panel>
  );
}

/** The help page that answers the questions of a step. */
function helpOn(step: StepName, plan: Plan): string {
  if (step === "movement" && follows(plan.motion)) return "following";
  if (step === "surround" && plan.surround.kind === "extended") return "extending";
  return step;
}

type Props = { step: StepName; foot: ReactNode; children: ReactNode };

/**
 * The settings of a step, at the scroll position where they were left. Parts that change height stay at the foot, so that
 * nothing moves under the pointer.
 */
function Panel({ step, foot, children }: Props) {
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
