import { type RefObject, useEffect, useState } from "react";
import type { Plan } from "../../api/client";
import { useActivity } from "../state/activity";
import { useBench } from "../state/use-bench";
import { usePreview } from "../use-preview";
import type { ScreenBox } from "./view";

const SIZE = 260;
/** As wide as a composed frame is made for the page. */
const MOST = 3840;

type Props = {
  plan: Plan;
  /** Where the frame is, and where the pointer is, in the viewer. */
  box: ScreenBox;
  at: { x: number; y: number };
};

/** The frame under the pointer, one pixel of it on one of the screen: to judge sharpness by. */
export function Loupe({ plan, box, at }: Props) {
  const { time } = useBench("time");
  const width = Math.min(plan.frame.width, MOST);
  const plays = useActivity(({ playing }) => playing);
  const preview = usePreview(plays ? null : { plan, time, width });
  const on = { x: (at.x - box.x) / box.width, y: (at.y - box.y) / box.height };
  if (on.x < 0 || on.y < 0 || on.x > 1 || on.y > 1) return null;
  const dots = window.devicePixelRatio;
  const wide = width / dots;
  const tall = (wide * box.height) / box.width;
  return (
    <div
      data-testid="loupe"
      className="pointer-events-none absolute z-20 border border-chalk bg-well shadow-lg"
      style={{
        left: at.x - SIZE / 2,
        top: at.y - SIZE / 2,
        width: SIZE,
        height: SIZE,
        backgroundImage: preview?.picture ? `url(${preview.picture})` : undefined,
        backgroundRepeat: "no-repeat",
        backgroundSize: `${wide}px ${tall}px`,
        backgroundPosition: `${SIZE / 2 - on.x * wide}px ${SIZE / 2 - on.y * tall}px`,
        imageRendering: "pixelated",
      }}
    >
      <span className="num absolute right-0 bottom-0 bg-night px-1 text-chalk">100%</span>
    </div>
  );
}

/** Where the pointer is on an element, while that is asked for; where it was before anybody moved it, in the middle. */
export function usePointerAt(place: RefObject<HTMLElement | null>, asked: boolean) {
  const [at, setAt] = useState<{ x: number; y: number } | null>(null);
  useEffect(() => {
    const element = place.current;
    if (!element) return;
    const follow = ({ clientX, clientY }: PointerEvent) => {
      const { left, top } = element.getBoundingClientRect();
      setAt({ x: clientX - left, y: clientY - top });
    };
    if (asked) {
      setAt((last) => last ?? { x: element.clientWidth / 2, y: element.clientHeight / 2 });
      element.addEventListener("pointermove", follow);
    }
    return () => element.removeEventListener("pointermove", follow);
  }, [place, asked]);
  return asked ? at : null;
}
