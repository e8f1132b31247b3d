import type { Board, Footage, Framing, Plan } from "../../api/client";
import type { PlanEditor } from "../editor/plan-editor";
import type { ExtensionOf } from "../extending/use-extension";
import type { Following, FollowingHand } from "../following/use-following";
import type { useCutting } from "../shots/use-cutting";
import type { StepName } from "../steps";
import { TreatmentsFold } from "../treatments/treatments-fold";
import type { Editing } from "../use-framing";
import type { Looking } from "../use-looking";
import type { RangeOf } from "../use-range";
import type { useRenders } from "../use-renders";
import type { Transport } from "../use-transport";
import { CheckPanel } from "./check-panel";
import { FinishPanel } from "./finish-panel";
import { FramePanel } from "./frame-panel";
import { MovementPanel } from "./movement-panel";
import { PlacementPanel } from "./placement-panel";
import type { useInterpretation } from "./source/use-interpretation";
import { SourcePanel } from "./source-panel";
import { SurroundPanel } from "./surround-panel";

type Props = {
  step: StepName;
  board: Board;
  footage: Footage;
  framing: Framing;
  editing: Editing;
  editor: PlanEditor;
  time: string;
  transport: Transport;
  looking: Looking;
  reading: ReturnType<typeof useInterpretation>;
  cutting: ReturnType<typeof useCutting>;
  /** Whether the clip is in several shots. */
  cut: boolean;
  whole: Plan;
  following: Following;
  hand: FollowingHand;
  rendering: ReturnType<typeof useRenders> & { request: () => void };
  extension: ExtensionOf;
  range: RangeOf;
};

/** What can be set at a step. */
export function StepPanel({ step, board, footage, framing, editing, time, transport, ...props }: Props) {
  const { editor, looking, reading, cutting, cut, rendering, whole, following, hand, extension, range } =
    props;
  const { id: framingId } = framing;
  const { id: projectId } = board;
  const both = { ...editing, framingId, time };
  switch (step) {
    case "source":
      return <SourcePanel {...{ footage, time, reading }} go={transport.go} />;
    case "frame":
      return <FramePanel board={board} framing={framing} measure={editing.measure} />;
    case "placement":
      return (
        <PlacementPanel {...both} straightening={looking.straightening} onStraighten={looking.straighten} />
      );
    case "movement":
      return <MovementPanel {...both} {...{ footage, transport, cutting, cut, whole, following, hand }} />;
    case "surround":
      return (
        <>
          <SurroundPanel {...both} {...{ projectId, footage, extension, looking, range }} />
          <TreatmentsFold {...{ projectId, framing, time, editor }} plan={editing.plan} />
        </>
      );
    case "finish":
      return <FinishPanel {...both} {...{ projectId, footage }} />;
    case "check":
      return (
        <CheckPanel
          renders={rendering.renders}
          projectId={projectId}
          ordering={rendering.order.isPending}
          onOrder={rendering.request}
        />
      );
  }
}
