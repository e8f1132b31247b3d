import { ResultPreview, useRoomBeside } from "./following/result-preview";
import { KeyframeQuestion } from "./keyframe-question";
import { FullScreen } from "./playing/full-screen";
import { ResultViewer } from "./result-viewer";
import { Scopes } from "./scopes/scopes";
import { useBench } from "./state/use-bench";
import { useFinished } from "./use-renders";
import { FrameViewer } from "./viewer/frame-viewer";
import { SourceViewer } from "./viewer/source-viewer";
import { ViewBar } from "./viewer/view-bar";

/** The picture of the bench: in its frame, on its source, in full screen, or, at Check, as it was rendered. */
export function Viewer() {
  const { step, fullScreen, onSource, drawingBox, following, scopes } = useBench(
    "step",
    "fullScreen",
    "onSource",
    "drawingBox",
    "following",
    "scopes",
  );
  const finished = useFinished();
  const roomBeside = useRoomBeside();
  if (step === "check" && finished) return <ResultViewer key={finished.id} render={finished} />;
  const source = onSource || drawingBox;
  return (
    <>
      {fullScreen ? <FullScreen /> : source ? <SourceViewer /> : <FrameViewer />}
      {onSource && following && step === "movement" && roomBeside && <ResultPreview />}
      {scopes && !onSource && <Scopes />}
      <KeyframeQuestion />
      <ViewBar />
    </>
  );
}
