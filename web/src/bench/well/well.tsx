import { useEffect, useLayoutEffect, useRef, useState } from "react";
import { shown } from "../../api/exact";
import { ProblemNote } from "../../ui/problem-note";
import { moment } from "../timecode";
import type { Changer } from "../use-framing";
import { usePreview } from "../use-preview";
import { Dimensions } from "./dimensions";
import { usePlacing } from "./use-placing";
import { boxOf, fitView, lostParts, toScreen } from "./view";

const WIDEST = 1920;
const PLAYING_WIDTH = 640;
/** The well's own grey, as what is seen where there is neither picture nor surround. */
const NOTHING = { kind: "plain", colour: "#777777" } as const;

type Props = Changer & {
  framingId: number;
  footageId: number;
  frame: number;
  rate: string;
  playing: boolean;
  surroundOff: boolean;
  outside: boolean;
};

/** The picture in its frame, in real pixels, with its dimensions drawn on it. */
export function Well(props: Props) {
  const { plan, measure, framingId, footageId, surroundOff, outside, playing } = props;
  const place = useRef<HTMLElement>(null);
  const size = useSize(place);
  const picture = boxOf(measure.box);
  const active = boxOf(measure.drawn);
  const view = fitView(size, plan.frame, outside ? picture : null);
  const frameBox = toScreen(view, { x: 0, y: 0, width: plan.frame.width, height: plan.frame.height });
  const pictureBox = toScreen(view, picture);
  const { handlers, onWheel, snapped } = usePlacing(view, props);
  const time = moment(props.frame, props.rate);
  const pixels = Math.min(WIDEST, Math.round(frameBox.width * window.devicePixelRatio));
  const preview = usePreview("well", {
    framingId,
    plan: surroundOff ? { ...plan, surround: NOTHING } : plan,
    time,
    width: Math.max(16, playing ? Math.min(PLAYING_WIDTH, pixels) : pixels),
  });
  const lost = lostParts(picture, active).length > 0;
  useWheel(place, onWheel);

  return (
    <section
      ref={place}
      role="application"
      aria-label="The picture in its frame. Drag it, turn the wheel to enlarge, nudge it with the arrow keys."
      // biome-ignore lint/a11y/noNoninteractiveTabindex: the drawing is handled directly, by pointer and by key
      tabIndex={0}
      className="well relative min-h-0 min-w-0 grow cursor-move touch-none overflow-hidden bg-well"
      {...handlers}
    >
      {lost && (
        <img
          alt=""
          draggable={false}
          className="absolute max-w-none opacity-55"
          style={{
            left: pictureBox.x,
            top: pictureBox.y,
            width: pictureBox.width,
            height: pictureBox.height,
          }}
          src={`/api/footage/${footageId}/picture?width=640&time=${encodeURIComponent(time)}&reading=${encodeURIComponent(JSON.stringify(plan.interpretation))}`}
        />
      )}
      {preview?.url && (
        <img
          data-testid="composed"
          alt="The composed frame"
          draggable={false}
          className="absolute max-w-none"
          style={{ left: frameBox.x, top: frameBox.y, width: frameBox.width, height: frameBox.height }}
          src={preview.url}
        />
      )}
      <Dimensions
        view={view}
        measure={measure}
        picture={picture}
        active={active}
        frame={plan.frame}
        well={size}
      />
      <SnapLines snapped={snapped} view={view} size={size} />
      <p
        className="num pointer-events-none absolute flex justify-between gap-4 whitespace-nowrap text-chalk"
        style={{ left: frameBox.x, top: frameBox.y - 25, minWidth: Math.max(320, frameBox.width) }}
      >
        <span className="bg-well/85 px-1">
          {plan.frame.name} {plan.frame.width} × {plan.frame.height}
        </span>
        <span className="bg-well/85 px-1">
          picture {measure.picture_width} × {measure.picture_height} at {shown(measure.scale, 4)}×
        </span>
      </p>
      <div className="absolute top-3 right-3 left-3">
        <ProblemNote error={preview?.error} />
      </div>
    </section>
  );
}

/** Says what the picture has snapped to, and where. */
function SnapLines({ snapped, view, size }: { snapped: ReturnType<typeof usePlacing>["snapped"] } & Sized) {
  const { across, down } = snapped;
  return (
    <>
      {across && (
        <div
          className="pointer-events-none absolute w-px bg-chalk"
          style={{ left: view.left + Number(across.line) * view.across, top: 0, height: size.height }}
        />
      )}
      {down && (
        <div
          className="pointer-events-none absolute h-px bg-chalk"
          style={{ top: view.top + Number(down.line) * view.down, left: 0, width: size.width }}
        />
      )}
      {(across || down) && (
        <p className="num pointer-events-none absolute top-3 left-1/2 -translate-x-1/2 rounded bg-ink px-2 py-1 text-chalk">
          {[across && `${across.says} across`, down && `${down.says} down`].filter(Boolean).join(", ")}
        </p>
      )}
    </>
  );
}

type Sized = { view: ReturnType<typeof fitView>; size: { width: number; height: number } };

function useSize(place: React.RefObject<HTMLElement | null>) {
  const [size, setSize] = useState({ width: 840, height: 600 });
  useLayoutEffect(() => {
    const element = place.current;
    if (!element) return;
    const observer = new ResizeObserver(() =>
      setSize({ width: element.clientWidth, height: element.clientHeight }),
    );
    observer.observe(element);
    return () => observer.disconnect();
  }, [place]);
  return size;
}

/** React listens to the wheel passively; the page must not scroll while the picture grows. */
function useWheel(place: React.RefObject<HTMLElement | null>, onWheel: (event: WheelEvent) => void) {
  const current = useRef(onWheel);
  current.current = onWheel;
  useEffect(() => {
    const element = place.current;
    const listen = (event: WheelEvent) => current.current(event);
    element?.addEventListener("wheel", listen, { passive: false });
    return () => element?.removeEventListener("wheel", listen);
  }, [place]);
}
