import type { Footage, Framing, Plan, Render } from "../api/client";
import { Beside, hasRoom } from "./following/beside";
import type { Drawn } from "./following/draw-box";
import type { Following, FollowingHand } from "./following/use-following";
import { KeyingQuestion } from "./keying/keying-question";
import type { Keying } from "./keying/use-keying";
import type { useInterpretation } from "./panels/source/use-interpretation";
import type { Player } from "./playing/player";
import { WholeScreen } from "./playing/whole-screen";
import { ResultWell } from "./result-well";
import { Scopes } from "./scopes/scopes";
import { follows } from "./shots/shots";
import type { PathPoint } from "./shots/use-path";
import type { StepName } from "./steps";
import { moment } from "./timecode";
import type { Editing } from "./use-framing";
import type { Looking } from "./use-looking";
import type { RangeOf } from "./use-range";
import type { Transport } from "./use-transport";
import { SourceWell } from "./well/source-well";
import { Well } from "./well/well";
import { WellBar } from "./well/well-bar";

type Props = {
  footage: Footage;
  framing: Framing;
  step: StepName;
  /** The current step; at Check the finished file replaces the composed frame. */
  finished: Render | undefined;
  shown: Editing;
  keying: Keying;
  path: PathPoint[];
  /** Whether only the shot that is seen plays. */
  alone: boolean;
  transport: Transport;
  player: Player;
  range: RangeOf;
  looking: Looking;
  reading: ReturnType<typeof useInterpretation>;
  following: Following;
  hand: FollowingHand;
};

/** The picture of the bench: in its frame, on its source, on all of the screen, or as it was rendered. */
export function Wells({ footage, framing, step, finished, shown, keying, path, alone, ...props }: Props) {
  const { transport, player, range, looking, reading, following, hand } = props;
  if (step === "check" && finished)
    return <ResultWell key={finished.id} render={finished} {...{ footage, transport, player, range }} />;
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
      ) : looking.onSource || hand.drawing ? (
        <SourceWell
          {...shown}
          {...both}
          hand={keying.hand}
          dimmed={looking.dimmed && follows(plan.motion)}
          drawing={hand.drawing}
          onDrawn={(drawn) => {
            hand.onDraw(false);
            if (drawn)
              following.solve(withBox(following, drawn, moment(transport.frame, rate)), "Follow the box");
          }}
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
          zoom={looking.zoom}
          zoomBy={looking.zoomBy}
          tinted={looking.tinted && plan.surround.kind === "extended"}
          titles={step === "finish"}
          outside={looking.outside}
          near={looking.near}
          straightening={looking.straightening}
          onStraightened={() => looking.straighten(false)}
        />
      )}
      {looking.onSource && follows(plan.motion) && step === "movement" && hasRoom() && (
        <Beside {...{ framingId, footage, plan, path, transport, player }} measure={shown.measure} />
      )}
      {looking.scopes && !looking.onSource && <Scopes {...{ framingId, plan, transport, rate }} />}
      <KeyingQuestion keying={keying} />
      <WellBar {...{ looking, keying }} following={follows(plan.motion)} />
    </>
  );
}

/** The subject, with a box drawn at a moment. */
function withBox({ follow }: Following, drawn: Drawn, time: string) {
  const box = { ...drawn, time, drawn: true, until: null };
  return { subjects: [...(follow?.subjects ?? []).filter((one) => !one.drawn), box] };
}
