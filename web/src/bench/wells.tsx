import type { Footage, Framing, Plan, Render } from "../api/client";
import { KeyingQuestion } from "./keying/keying-question";
import type { Keying } from "./keying/use-keying";
import type { useInterpretation } from "./panels/source/use-interpretation";
import type { Player } from "./playing/player";
import { WholeScreen } from "./playing/whole-screen";
import { ResultWell } from "./result-well";
import type { PathPoint } from "./shots/use-path";
import type { StepName } from "./steps";
import type { Editing } from "./use-framing";
import type { Looking } from "./use-looking";
import type { Transport } from "./use-transport";
import { SourceWell } from "./well/source-well";
import { Well } from "./well/well";
import { WellBar } from "./well/well-bar";

type Props = {
  footage: Footage;
  framing: Framing;
  step: StepName;
  /** What is done; in its place the finished file is shown where there is one and it is checked. */
  finished: Render | undefined;
  shown: Editing;
  keying: Keying;
  path: PathPoint[];
  /** Whether only the shot that is seen plays. */
  alone: boolean;
  transport: Transport;
  player: Player;
  looking: Looking;
  reading: ReturnType<typeof useInterpretation>;
};

/** The picture of the bench: in its frame, on its source, on all of the screen, or as it was rendered. */
export function Wells({ footage, framing, step, finished, shown, keying, path, alone, ...props }: Props) {
  const { transport, player, looking, reading } = props;
  if (step === "check" && finished)
    return <ResultWell key={finished.id} render={finished} footage={footage} />;
  const { id: framingId, frame: frameId } = framing;
  const { rate } = footage.timing;
  const both = { framingId, footage, transport, player, rate, path, alone };
  const plan: Plan = shown.plan;
  return (
    <>
      {looking.onScreen ? (
        <WholeScreen
          {...{ framingId, plan, footage, transport, player, alone }}
          onClose={() => looking.setOnScreen(false)}
        />
      ) : looking.onSource ? (
        <SourceWell
          {...shown}
          {...both}
          hand={keying.hand}
          onBars={step === "source" ? (burned_in_bars) => reading.say({ burned_in_bars }) : null}
        />
      ) : (
        <Well
          {...shown}
          {...both}
          frameId={frameId}
          hand={keying.hand}
          surroundOff={looking.surroundOff}
          compared={looking.compared}
          titles={step === "finish"}
          outside={looking.outside}
          straightening={looking.straightening}
          onStraightened={() => looking.straighten(false)}
        />
      )}
      <KeyingQuestion keying={keying} />
      <WellBar {...{ looking, keying }} />
    </>
  );
}
