import { type KeyboardEvent, type PointerEvent, useRef, useState } from "react";
import type { Title, TitlePlace } from "../../api/client";
import { toNumber } from "../../api/exact";
import type { Changer } from "../use-framing";
import { SnapLines } from "./snap-lines";
import { boxOf, toScreen, type View } from "./view";

const SNAP_SCREEN_PX = 7;
const NUDGE_PERCENT = 0.1;
const AROUND = 6;

type Snap = TitlePlace["across"][number];
type Snapped = { across: Snap | null; down: Snap | null };
type Grab = { number: number; clientX: number; clientY: number; x: number; y: number };

const NONE: Snapped = { across: null, down: null };

/** Titles to be dragged; they snap to the title-safe area, to the middle, and to the middle of bars. */
export function TitleHandles({
  view,
  size,
  plan,
  measure,
  change,
  commit,
}: Changer & { view: View; size: { width: number; height: number } }) {
  const grab = useRef<Grab | null>(null);
  const [snapped, setSnapped] = useState<Snapped>(NONE);
  const { titles } = plan.finish;

  function moved(number: number, x: number, y: number) {
    const within = (percent: number) => Math.min(100, Math.max(0, Math.round(percent * 100) / 100));
    const changed = titles.map((title, at) =>
      at === number ? ({ ...title, x: within(x), y: within(y) } as Title) : title,
    );
    return { ...plan, finish: { ...plan.finish, titles: changed } };
  }

  function onPointerDown(event: PointerEvent, number: number) {
    const title = titles[number];
    if (event.button !== 0 || !title) return;
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    grab.current = { number, clientX: event.clientX, clientY: event.clientY, x: title.x, y: title.y };
  }

  function onPointerMove(event: PointerEvent) {
    const held = grab.current;
    const place = held && measure.titles[held.number];
    if (!held || !place) return;
    event.stopPropagation();
    const percentX = 100 / (view.across * plan.frame.width);
    const percentY = 100 / (view.down * plan.frame.height);
    const x = held.x + (event.clientX - held.clientX) * percentX;
    const y = held.y + (event.clientY - held.clientY) * percentY;
    const across = event.altKey ? null : near(place.across, x, SNAP_SCREEN_PX * percentX);
    const down = event.altKey ? null : near(place.down, y, SNAP_SCREEN_PX * percentY);
    setSnapped({ across, down });
    change(moved(held.number, across ? toNumber(across.offset) : x, down ? toNumber(down.offset) : y));
  }

  function onPointerUp(event: PointerEvent) {
    const held = grab.current;
    if (!held) return;
    event.stopPropagation();
    grab.current = null;
    setSnapped(NONE);
    const title = titles[held.number];
    if (title && (title.x !== held.x || title.y !== held.y)) commit(plan, "Title moved");
  }

  function onKeyDown(event: KeyboardEvent, number: number) {
    const title = titles[number];
    const ways: Record<string, [number, number]> = {
      ArrowLeft: [-1, 0],
      ArrowRight: [1, 0],
      ArrowUp: [0, -1],
      ArrowDown: [0, 1],
    };
    const way = ways[event.key];
    if (!way || !title) return;
    event.preventDefault();
    event.stopPropagation();
    const by = NUDGE_PERCENT * (event.shiftKey ? 10 : 1);
    commit(moved(number, title.x + way[0] * by, title.y + way[1] * by), "Title moved");
  }

  return (
    <>
      {titles.map((title, number) => {
        const place = measure.titles[number];
        if (!place) return null;
        const box = toScreen(view, boxOf(place.box));
        return (
          <button
            // biome-ignore lint/suspicious/noArrayIndexKey: titles are told apart by nothing but their order
            key={number}
            type="button"
            aria-label={`Title ${number + 1}: ${title.text}`}
            className="absolute cursor-move touch-none border border-chalk/70 border-dashed hover:border-chalk"
            style={{
              left: box.x - AROUND,
              top: box.y - AROUND,
              width: box.width + 2 * AROUND,
              height: box.height + 2 * AROUND,
            }}
            onPointerDown={(event) => onPointerDown(event, number)}
            onPointerMove={onPointerMove}
            onPointerUp={onPointerUp}
            onPointerCancel={onPointerUp}
            onKeyDown={(event) => onKeyDown(event, number)}
          />
        );
      })}
      <SnapLines snapped={snapped} view={view} size={size} />
    </>
  );
}

function near(snaps: Snap[], wanted: number, reach: number): Snap | null {
  const found = snaps.filter(({ offset }) => Math.abs(toNumber(offset) - wanted) <= reach);
  return found[0] ?? null;
}
