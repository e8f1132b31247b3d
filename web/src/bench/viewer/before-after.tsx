import type { Plan } from "../../api/client";
import { type Choices, useChoices } from "../../api/use-choices";
import { useEdge } from "../../ui/use-edge";
import { everywhere } from "../editor/scope";
import { Played } from "../playing/played";
import { usePreview } from "../use-preview";
import type { ScreenBox } from "./view";

type Props = {
  plan: Plan;
  time: string;
  width: number;
  box: ScreenBox;
  /** Whether both play: the untreated picture beside the other. */
  plays: boolean;
};

/** The untreated picture, whole on black, up to an edge that is dragged over the frame. */
export function BeforeAfter({ plan, time, width, box, plays }: Props) {
  const { at, slider } = useEdge("Edge between before and after", (held) =>
    (held.parentElement ?? held).getBoundingClientRect(),
  );
  const choices = useChoices();
  const before = usePreview(plays ? null : { plan: untreated(plan, choices), time, width });
  const clipPath = `inset(0 ${(1 - at) * 100}% 0 0)`;
  return (
    <div className="absolute" style={{ left: box.x, top: box.y, width: box.width, height: box.height }}>
      {before?.picture && (
        <img
          data-testid="before"
          alt="Before any treatment"
          draggable={false}
          className="absolute h-full w-full max-w-none"
          style={{ clipPath }}
          src={before.picture}
        />
      )}
      {plays && <Played tile={1} className="inset-0" style={{ clipPath }} />}
      <div
        {...slider}
        className="absolute inset-y-0 w-5 -translate-x-1/2 cursor-ew-resize touch-none pointer-coarse:w-11"
        style={{ left: `${at * 100}%` }}
      >
        <span className="absolute inset-y-0 left-1/2 w-0.5 -translate-x-1/2 bg-chalk" />
      </div>
      <p className="num pointer-events-none absolute bottom-2 w-full text-night">
        <span
          className="absolute bottom-0 bg-chalk px-1.5"
          style={{ right: `calc(${(1 - at) * 100}% + 10px)` }}
        >
          before
        </span>
        <span className="absolute bottom-0 bg-chalk px-1.5" style={{ left: `calc(${at * 100}% + 10px)` }}>
          after
        </span>
      </p>
    </div>
  );
}

/** The clip in the frame without any change. */
export function untreated(plan: Plan, { placement, motion, bare }: Choices): Plan {
  return everywhere(plan, { placement, motion, surround: bare, finish: {} } as unknown as Plan);
}
