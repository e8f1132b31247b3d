import { type KeyboardEvent, type PointerEvent, useRef } from "react";
import { useKept } from "../ui/kept";

const LEAST = 296;
const MOST = 560;
const USUAL = 312;
const BY_KEY = 16;

const within = (width: number) => Math.round(Math.min(MOST, Math.max(LEAST, width)));

/** How wide the panel of the bench is; it is kept. */
export function usePanelWidth() {
  return useKept("panel width", USUAL);
}

/** The edge of the panel, by which it is made wider: by hand or with the arrow keys; a double press makes it as it was. */
export function PanelEdge() {
  const [width, setWidth] = usePanelWidth();
  const held = useRef<{ x: number; width: number } | null>(null);
  const onPointerDown = (event: PointerEvent) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    held.current = { x: event.clientX, width };
  };
  const onPointerMove = ({ clientX }: PointerEvent) => {
    if (held.current) setWidth(within(held.current.width + held.current.x - clientX));
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const by = { ArrowLeft: BY_KEY, ArrowRight: -BY_KEY }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    setWidth(within(width + by));
  };
  return (
    // biome-ignore lint/a11y/useSemanticElements: a rule of a page cannot be moved
    <div
      role="separator"
      aria-orientation="vertical"
      aria-label="Panel width"
      aria-valuenow={width}
      aria-valuemin={LEAST}
      aria-valuemax={MOST}
      tabIndex={0}
      title="Drag to change the width"
      className="grip narrow:hidden absolute inset-y-0 -left-1 z-10 w-2 cursor-col-resize touch-none hover:bg-rule"
      onPointerDown={onPointerDown}
      onPointerMove={onPointerMove}
      onPointerUp={() => {
        held.current = null;
      }}
      onLostPointerCapture={() => {
        held.current = null;
      }}
      onDoubleClick={() => setWidth(USUAL)}
      onKeyDown={onKeyDown}
    />
  );
}
