import { useEffect, useLayoutEffect, useRef } from "react";
import { useChoices } from "../../api/use-choices";
import { shown, toNumber } from "../../ui/exact";
import { useListed } from "../../ui/keyboard";
import { everywhere } from "../editor/scope";
import { Tint } from "../extending/tint";
import { usePath } from "../shots/use-path";
import { useActivity } from "../state/activity";
import { useBench, useDriven } from "../state/use-bench";
import { Composed } from "./composed";
import { Dimensions } from "./dimensions";
import { Guides } from "./guides";
import { Loupe, usePointerAt } from "./loupe";
import { PathInFrame } from "./path-lines";
import { SnapLines } from "./snap-lines";
import { TitleHandles } from "./title-handles";
import { useLine } from "./use-line";
import { usePinch } from "./use-pinch";
import { usePlacing, useWheelAndKeys } from "./use-placing";
import { useSize } from "./use-size";
import { useZoomed } from "./use-zoomed";
import { boxOf, fitView, frameOnScreen, type ScreenBox, toScreen, type View } from "./view";

/** The widest that a frame is composed to be seen pixel for pixel. */
const FULL = 3840;
/** The colour of the viewer itself. */
const GREY = "#777777";
/** Screen pixels of a frame over which its name and the size of the picture stand side by side. */
const LEAST_FOR_BOTH = 400;

const ZOOMED = "The frame, zoomed. Drag it, or use the arrow keys, to see another part.";
const UNZOOMED =
  "The picture in its frame. Drag it, turn the wheel to enlarge, nudge it with the arrow keys.";

/** The picture in its frame, in real pixels, with its dimensions drawn on it. */
export function FrameViewer() {
  const { shownPlan, measure, cropShown, cropHeld, levelling, step } = useBench(
    "shownPlan",
    "measure",
    "cropShown",
    "cropHeld",
    "levelling",
    "step",
  );
  const place = useRef<HTMLElement>(null);
  const size = useSize(place);
  const zoomed = useZoomed(size);
  const view = zoomed?.view ?? fitView(size, shownPlan.frame, cropShown || cropHeld ? measure.corners : null);
  useViewerWaitsAtFirst();
  const { pinching, onClick } = usePinch(place, view);
  const placing = usePlacing(view, pinching);
  const byWheelAndKeys = useWheelAndKeys();
  const { drag } = zoomed ?? placing;
  const { onKeyDown, onWheel } = zoomed ?? byWheelAndKeys;
  const line = useLine(place, view);
  useListed([
    { keys: "Arrows", does: "Picture reached: nudge it by a pixel" },
    { keys: "Shift+Arrows", does: "The same by ten" },
  ]);
  useWheel(place, onWheel);
  const cursor = levelling ? "cursor-crosshair" : zoomed ? "cursor-grab" : "cursor-move";
  return (
    <section
      ref={place}
      role="application"
      aria-label={zoomed ? ZOOMED : UNZOOMED}
      // biome-ignore lint/a11y/noNoninteractiveTabindex: the drawing is handled directly, by pointer and by key
      tabIndex={0}
      className={`well relative min-h-0 min-w-0 grow touch-none overflow-hidden bg-well ${cursor}`}
      {...(levelling ? line.drag() : drag())}
      onClick={onClick}
      onKeyDown={onKeyDown}
    >
      {size.width > 0 && <FramePicture {...{ place, view }} zoomed={zoomed !== null} />}
      <Dimensions view={view} size={size} />
      <PathOverFrame view={view} />
      <Guides view={view} />
      <SnapLines snapped={placing.snapped} view={view} size={size} />
      {step === "finish" && <TitleHandles view={view} size={size} />}
      {line.line && (
        <svg className="pointer-events-none absolute inset-0 h-full w-full text-chalk" aria-hidden="true">
          <line {...line.line} stroke="currentColor" strokeWidth="2" />
        </svg>
      )}
      <FrameLabel box={frameOnScreen(view, shownPlan.frame)} />
      {levelling && (
        <p className="-translate-x-1/2 absolute top-3 left-1/2 rounded bg-night px-2 py-1 text-chalk">
          Draw along the horizon, or along something upright.
        </p>
      )}
    </section>
  );
}

type PictureProps = { place: React.RefObject<HTMLElement | null>; view: View; zoomed: boolean };

/** The composed frame, with cropped parts of the picture behind it, the tint and the loupe over it. */
function FramePicture({ place, view, zoomed }: PictureProps) {
  const { shownPlan, measure, surroundOff, tinted, loupe, loupeHeld } = useBench(
    "shownPlan",
    "measure",
    "surroundOff",
    "tinted",
    "loupe",
    "loupeHeld",
  );
  const { bare } = useChoices();
  const driven = useDriven();
  const pointer = usePointerAt(place, loupe || loupeHeld);
  const box = frameOnScreen(view, shownPlan.frame);
  const plan = surroundOff ? everywhere(shownPlan, { surround: { ...bare, colour: GREY } }) : shownPlan;
  return (
    <>
      {measure.summary.loses && <LostPicture view={view} />}
      <Composed plan={plan} box={box} widest={zoomed ? Math.min(FULL, shownPlan.frame.width) : undefined} />
      {tinted && shownPlan.surround.kind === "extended" && !driven && <Tint box={box} />}
      {pointer && <Loupe plan={plan} box={box} at={pointer} />}
    </>
  );
}

function PathOverFrame({ view }: { view: View }) {
  const path = usePath();
  const driven = useDriven();
  return !driven && path.length > 0 && <PathInFrame path={path} view={view} />;
}

/** The name and size of the frame, and the size of the picture in it. */
function FrameLabel({ box }: { box: ScreenBox }) {
  const { shownPlan, measure } = useBench("shownPlan", "measure");
  const { frame } = shownPlan;
  return (
    <p
      className="num pointer-events-none absolute flex justify-between gap-4 whitespace-nowrap text-chalk"
      style={{ left: box.x, top: box.y - 25, minWidth: Math.max(160, box.width) }}
    >
      <span className="bg-well/85 px-1">
        {frame.name} {frame.width} × {frame.height}
      </span>
      <span className={box.width < LEAST_FOR_BOTH ? "hidden" : "bg-well/85 px-1"}>
        picture {shown(measure.picture.width, 1)} × {shown(measure.picture.height, 1)} at{" "}
        {shown(measure.scale, 4)}×
      </span>
    </p>
  );
}

/** Until the viewer has its size and asks for its picture, less urgent requests wait too. */
function useViewerWaitsAtFirst() {
  useLayoutEffect(() => {
    useActivity.setState({ viewerWaits: true });
    return () => useActivity.setState({ viewerWaits: false });
  }, []);
}

/** The whole picture, faint, behind the frame: what of it is lost can still be seen. */
function LostPicture({ view }: { view: View }) {
  const { footage, measure, shownPlan: plan, time } = useBench("footage", "measure", "shownPlan", "time");
  const box = toScreen(view, boxOf(measure.box));
  const query = new URLSearchParams({
    width: "640",
    time,
    stamp: footage.stamp,
    reading: JSON.stringify(plan.interpretation),
  });
  return (
    <img
      alt=""
      draggable={false}
      className="absolute max-w-none opacity-55"
      style={{
        left: box.x,
        top: box.y,
        width: box.width,
        height: box.height,
        transform: `rotate(${toNumber(plan.placement.angle)}deg) scaleX(${plan.placement.mirror ? -1 : 1})`,
      }}
      src={`/api/footage/${footage.id}/picture?${query}`}
    />
  );
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
