import { useEffect, useLayoutEffect, useRef } from "react";
import type { Footage } from "../../api/client";
import { useChoices } from "../../api/use-choices";
import { shown, toNumber } from "../../ui/exact";
import { useListed } from "../../ui/keyboard";
import { everywhere } from "../editor/scope";
import { Tint } from "../extending/tint";
import type { Player } from "../playing/player";
import type { PathPoint } from "../shots/use-path";
import { moment } from "../timecode";
import type { Editing } from "../use-framing";
import { wellWaits } from "../use-preview";
import { type Transport, useDriven, useRest } from "../use-transport";
import { Composed } from "./composed";
import { Dimensions } from "./dimensions";
import { Guides } from "./guides";
import { Loupe, usePointerAt } from "./loupe";
import { PathInFrame } from "./path-lines";
import { SnapLines } from "./snap-lines";
import { TitleHandles } from "./title-handles";
import { useFull } from "./use-full";
import { useLine } from "./use-line";
import { usePinch } from "./use-pinch";
import { usePlacing } from "./use-placing";
import { useSize } from "./use-size";
import { boxOf, fitView, toScreen } from "./view";

type Props = Editing & {
  framingId: number;
  frameId: number;
  footage: Footage;
  /** What the hand works on, where keys hold the placement. */
  hand: Editing;
  transport: Transport;
  player: Player;
  path: PathPoint[];
  alone: boolean;
  rate: string;
  surroundOff: boolean;
  outside: boolean;
  /** Whether the frame under the pointer is shown pixel for pixel. */
  near: boolean;
  /** Pixels of the screen for one of the frame, which is then moved under the hand; null if it is fitted in. */
  zoom: number | null;
  zoomBy: (factor: number) => void;
  /** Whether the untreated picture is shown beside an edge. */
  compared: boolean;
  /** Whether invented pixels are tinted. */
  tinted: boolean;
  /** Whether titles can be taken hold of. */
  titles: boolean;
  straightening: boolean;
  onStraightened: () => void;
};

/** As wide as a frame is composed to be seen pixel for pixel. */
const FULL = 3840;
/** The colour of the viewer itself. */
const GREY = "#777777";
/** Screen pixels of a frame over which its name and the size of the picture stand side by side. */
const LEAST_FOR_BOTH = 400;

/** The picture in its frame, in real pixels, with its dimensions drawn on it. */
export function Well(props: Props) {
  const { plan, measure, framingId, footage, surroundOff, outside, transport, straightening } = props;
  const { player, compared } = props;
  const { bare } = useChoices();
  const place = useRef<HTMLElement>(null);
  const size = useSize(place);
  const full = useFull(props.zoom, props.zoomBy, size, plan.frame);
  const view = full?.view ?? fitView(size, plan.frame, outside ? measure.corners : null);
  const frameBox = toScreen(view, { x: 0, y: 0, width: plan.frame.width, height: plan.frame.height });
  useLayoutEffect(() => {
    wellWaits.setState({ waits: true });
    return () => wellWaits.setState({ waits: false });
  }, []);
  const pinching = usePinch(place, view, props.hand);
  const placing = usePlacing(view, props.hand, pinching);
  const { drag, onKeyDown, onWheel } = full ?? placing;
  const drawing = useLine(place, view, framingId, props, props.onStraightened);
  const driven = useDriven(transport);
  const pointer = usePointerAt(place, props.near);
  useListed([
    { keys: "Arrows", does: "Picture reached: nudge it by a pixel" },
    { keys: "Shift+Arrows", does: "The same by ten" },
  ]);
  const rested = moment(useRest(transport), props.rate);
  const seen = surroundOff ? everywhere(plan, { surround: { ...bare, colour: GREY } }) : plan;
  useWheel(place, onWheel);

  return (
    <section
      ref={place}
      role="application"
      aria-label={
        full
          ? "The frame, zoomed. Drag it, or use the arrow keys, to see another part."
          : "The picture in its frame. Drag it, turn the wheel to enlarge, nudge it with the arrow keys."
      }
      // biome-ignore lint/a11y/noNoninteractiveTabindex: the drawing is handled directly, by pointer and by key
      tabIndex={0}
      className={`well relative min-h-0 min-w-0 grow touch-none overflow-hidden bg-well ${straightening ? "cursor-crosshair" : full ? "cursor-grab" : "cursor-move"}`}
      {...(straightening ? drawing.drag() : drag())}
      onKeyDown={onKeyDown}
    >
      {measure.summary.loses && <LostPicture {...{ footage, view, measure, plan }} time={rested} />}
      {size.width > 0 && (
        <Composed
          {...{ framingId, footage, transport, player, compared }}
          plan={seen}
          box={frameBox}
          most={full ? Math.min(FULL, plan.frame.width) : undefined}
          alone={props.alone}
        />
      )}
      {props.tinted && !driven && size.width > 0 && (
        <Tint framingId={framingId} plan={plan} time={rested} box={frameBox} />
      )}
      <Dimensions
        view={view}
        measure={measure}
        active={boxOf(measure.drawn)}
        frame={plan.frame}
        well={size}
      />
      {!driven && props.path.length > 0 && (
        <PathInFrame {...{ view, measure }} path={props.path} time={rested} />
      )}
      <Guides frameId={props.frameId} view={view} frame={plan.frame} />
      <SnapLines snapped={placing.snapped} view={view} size={size} />
      {props.titles && <TitleHandles {...props} view={view} size={size} />}
      {pointer && <Loupe framingId={framingId} plan={seen} time={rested} box={frameBox} at={pointer} />}
      {drawing.line && (
        <svg className="pointer-events-none absolute inset-0 h-full w-full text-chalk" aria-hidden="true">
          <line {...drawing.line} stroke="currentColor" strokeWidth="2" />
        </svg>
      )}
      <p
        className="num pointer-events-none absolute flex justify-between gap-4 whitespace-nowrap text-chalk"
        style={{ left: frameBox.x, top: frameBox.y - 25, minWidth: Math.max(160, frameBox.width) }}
      >
        <span className="bg-well/85 px-1">
          {plan.frame.name} {plan.frame.width} × {plan.frame.height}
        </span>
        <span className={frameBox.width < LEAST_FOR_BOTH ? "hidden" : "bg-well/85 px-1"}>
          picture {shown(measure.picture.width, 1)} × {shown(measure.picture.height, 1)} at{" "}
          {shown(measure.scale, 4)}×
        </span>
      </p>
      {straightening && (
        <p className="-translate-x-1/2 absolute top-3 left-1/2 rounded bg-night px-2 py-1 text-chalk">
          Draw along the horizon, or along something upright.
        </p>
      )}
    </section>
  );
}

type LostProps = Pick<Props, "footage" | "measure" | "plan"> & {
  view: ReturnType<typeof fitView>;
  time: string;
};

/** The whole picture, faint, behind the frame: what of it is lost can still be seen. */
function LostPicture({ footage, view, measure, plan, time }: LostProps) {
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
