import { progressOf } from "../rendering/progress";
import { stemOf } from "../ui/stem";
import { useTitle } from "../ui/use-title";
import { BenchHeader } from "./bench-header";
import { useBenchKeys } from "./bench-keys";
import { FramingLoader } from "./framing-loader";
import { StepPanel } from "./panels/step-panel";
import { RuleNote } from "./rule-note";
import { useBench } from "./state/use-bench";
import { Steps } from "./steps-list";
import { Lanes } from "./timeline/lanes";
import { Timeline } from "./timeline/timeline";
import { useFrameInUrl } from "./use-bench-url";
import { useRenders } from "./use-renders";
import { Viewer } from "./viewer";

/** The bench of one framing: its steps, its picture, and everything that can be done to it. */
export const BenchPage = () => (
  <FramingLoader>
    <BenchView />
  </FramingLoader>
);

function BenchView() {
  const { board, footage } = useBench("board", "footage");
  useTitle(progressOf(useRenders()), stemOf(footage.name), board.name);
  useFrameInUrl();
  useBenchKeys();
  return (
    <div className="flex h-full min-h-[600px] narrow:h-auto narrow:min-h-full flex-col overflow-hidden narrow:overflow-visible">
      <BenchHeader />
      <div className="flex min-h-0 grow narrow:flex-col">
        <div className="flex w-36 narrow:w-full shrink-0 flex-col justify-between narrow:border-r-0 border-rule border-r narrow:border-b">
          <Steps />
          <RuleNote />
        </div>
        <main
          id="main"
          tabIndex={-1}
          className="relative flex narrow:h-[64vw] narrow:max-h-[56vh] narrow:min-h-72 min-w-0 narrow:flex-none grow outline-none"
        >
          <Viewer />
        </main>
        <StepPanel />
      </div>
      <Timeline lanes={<Lanes />} />
    </div>
  );
}
