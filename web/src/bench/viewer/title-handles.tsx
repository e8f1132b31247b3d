import { type KeyboardEvent, useRef, useState } from "react";
import type { Plan, Title, TitlePlace } from "../../api/client";
import { arrowOf } from "../../ui/arrows";
import { toExact, toNumber } from "../../ui/exact";
import { useDragging } from "../../ui/use-dragging";
import { useBench } from "../state/use-bench";
import { nearest } from "./nearest";
import { SnapLines } from "./snap-lines";
import { boxOf, toScreen, type View } from "./view";

const SNAP_SCREEN_PX = 7;
const NUDGE_PERCENT = 0.1;
const AROUND = 6;

type Snap = TitlePlace["across"][number];
type Snapped = { across: Snap | null; down: Snap | null };
type Grab = { number: number; clientX: number; clientY: number; x: number; y: number };

const NONE: Snapped = { across: null, down: null };

type Props = { view: View; size: { width: number; height: number } };

/** Titles to be dragged; they snap to the title-safe area, to the middle, and to the middle of bars. */
export function TitleHandles({ view, size }: Props) {
  const { shownPlan, measure } = useBench("shownPlan", "measure");
  const { snapped, drag } = useTitleDrag(view);
  const nudge = useNudge();
  return (
    <>
      {shownPlan.finish.titles.map((title, number) => {
        const place = measure.titles[number];
        if (!place) return null;
        const box = toScreen(view, boxOf(place.box));
        return (
          <button
            // biome-ignore lint/suspicious/noArrayIndexKey: only their order identifies titles
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
            {...drag(number)}
            onKeyDown={(event) => nudge(event, number)}
          />
        );
      })}
      <SnapLines snapped={snapped} view={view} size={size} />
    </>
  );
}

/** Moving titles by pointer. */
function useTitleDrag(view: View) {
  const { shownPlan: plan, measure } = useBench("shownPlan", "measure");
  const { change, commit, abandon } = useBench("change", "commit", "abandon");
  const [snapped, setSnapped] = useState<Snapped>(NONE);
  const latest = useRef(plan);
  latest.current = plan;
  const moved = (number: number, x: number, y: number) => {
    latest.current = titleAt(latest.current, number, x, y);
    return latest.current;
  };
  const drag = useDragging<Grab, number>({
    begin: ({ x, y }, _, number) => {
      const title = latest.current.finish.titles[number];
      return title ? { number, clientX: x, clientY: y, x: toNumber(title.x), y: toNumber(title.y) } : null;
    },
    move: (held, at, event) => {
      const place = measure.titles[held.number];
      if (!place) return;
      const percentX = 100 / (view.across * plan.frame.width);
      const percentY = 100 / (view.down * plan.frame.height);
      const x = held.x + (at.x - held.clientX) * percentX;
      const y = held.y + (at.y - held.clientY) * percentY;
      const across = event.altKey ? null : nearest(place.across, x, SNAP_SCREEN_PX * percentX);
      const down = event.altKey ? null : nearest(place.down, y, SNAP_SCREEN_PX * percentY);
      setSnapped({ across, down });
      change(moved(held.number, across ? toNumber(across.offset) : x, down ? toNumber(down.offset) : y));
    },
    end: () => {
      setSnapped(NONE);
      commit(latest.current, "Title moved");
    },
    cancel: () => {
      setSnapped(NONE);
      abandon();
    },
  });

  return { snapped, drag };
}

/** Moving titles by the arrow keys. */
function useNudge() {
  const { shownPlan: plan, commit } = useBench("shownPlan", "commit");
  return (event: KeyboardEvent, number: number) => {
    const title = plan.finish.titles[number];
    const way = arrowOf(event);
    if (!way || !title) return;
    event.preventDefault();
    event.stopPropagation();
    const [x, y] = [toNumber(title.x) + way[0] * NUDGE_PERCENT, toNumber(title.y) + way[1] * NUDGE_PERCENT];
    commit(titleAt(plan, number, x, y), "Title moved");
  };
}

/** A plan with one of its titles at another place, in percent of the frame. */
function titleAt(plan: Plan, number: number, x: number, y: number): Plan {
  const within = (percent: number) => toExact(Math.min(100, Math.max(0, percent)), 2);
  const titles = plan.finish.titles.map((title, at) =>
    at === number ? ({ ...title, x: within(x), y: within(y) } as Title) : title,
  );
  return { ...plan, finish: { ...plan.finish, titles } };
}
