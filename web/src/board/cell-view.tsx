import { useQueryClient } from "@tanstack/react-query";
import { type KeyboardEvent, type MouseEvent, type PointerEvent, useState } from "react";
import { Link } from "react-router";
import type { Cell, Footage, FrameRow } from "../api/client";
import { AT_WORK, framingQuery } from "../api/queries";
import { aspectOf } from "../frames/aspect";
import { FramingPicture, MOMENTS, type Moment } from "../frames/framing-picture";
import { renderedInWords } from "../rendering/rendered";
import { stemOf } from "../ui/stem";
import { failed, focusedOf } from "./arranging";
import { useBoard, useBoardState, useBoardValue } from "./board-store";
import { CellDetails, placed, secondLine } from "./cell-words";
import { cellWidth } from "./pictures";
import { usePick } from "./use-grid-keys";

type Props = { cell: Cell; footage: Footage; frame: FrameRow };

/** One framing: its picture, its placement and surround, and the most important line. More on hover and focus. */
export function CellView({ cell, footage, frame }: Props) {
  const { working, height } = useBoard("working", "height");
  const selected = useBoardValue((state) => state.selected.has(cell.id));
  const pick = usePick();
  const name = `${stemOf(footage.name)} in ${frame.frame.name}`;
  return (
    // biome-ignore lint/a11y/useFocusableInteractive: the link inside takes the focus
    <td
      // biome-ignore lint/a11y/noNoninteractiveElementToInteractiveRole: a cell of a table that is a grid
      role="gridcell"
      aria-selected={selected}
      className="py-3 pr-3 align-top"
    >
      <div
        style={{ maxWidth: cellWidth(frame, height) }}
        className={`group relative rounded ${selected ? "bg-sheet outline-2 outline-offset-4 outline-ochre" : ""}`}
      >
        {working && <SelectBox name={name} selected={selected} onPick={(event) => pick(event, cell.id)} />}
        <CellLink {...{ cell, footage, frame, name }} />
      </div>
    </td>
  );
}

/** The picture and words of a cell, which open it. */
function CellLink({ cell, footage, frame, name }: Props & { name: string }) {
  const { board, working } = useBoard("board", "working");
  const height = useBoardValue((state) => state.height);
  const reachable = useBoardValue(({ focused, rows }) => cell.id === focusedOf(rows, focused));
  const cellFailed = useBoardValue(({ renders }) => failed(cell, renders));
  const rendered = useBoardValue(({ renders }) => renderedInWords(renders.get(cell.id)));
  const state = useBoardState();
  const pick = usePick();
  const client = useQueryClient();
  const [moment, setMoment] = useState<Moment>("middle");
  const known = { cell, rendered, failed: cellFailed, analysed: analysedPercent(footage) };
  const line = secondLine(known);
  const link = {
    "data-cell": cell.id,
    tabIndex: reachable ? 0 : -1,
    draggable: false,
    className: "block text-left outline-offset-4",
    onPointerDown: () => working && client.prefetchQuery(framingQuery(cell.id)),
    onPointerMove: (event: PointerEvent) => event.pointerType === "mouse" && setMoment(under(event)),
    onPointerLeave: () => setMoment("middle"),
    onClick(event: MouseEvent) {
      if (!working) state().open(cell.id);
      else if (event.shiftKey || event.ctrlKey || event.metaKey) {
        event.preventDefault();
        pick(event, cell.id);
      }
    },
    onKeyDown: (event: KeyboardEvent) => {
      if (event.key !== " " || event.shiftKey) return;
      event.preventDefault();
      playThrough(setMoment);
    },
  };
  const inside = (
    <>
      <CellPicture {...{ cell, frame, height, moment }} alt={name} />
      <span aria-hidden className="mt-1 hidden truncate text-soft max-[769px]:block">
        {frame.frame.name}
      </span>
      <span className="mt-1 block truncate font-semibold first-letter:uppercase">{placed(cell)}</span>
      <span aria-hidden className={`num block truncate ${line.look}`}>
        {line.words}
      </span>
      <CellDetails {...known} />
    </>
  );
  if (!working)
    return (
      <button type="button" {...link}>
        {inside}
      </button>
    );
  return (
    <Link to={`/projects/${board.id}/framings/${cell.id}`} {...link}>
      {inside}
    </Link>
  );
}

/** How much of a clip has been analysed for following, in percent; null if nothing is being analysed. */
function analysedPercent({ analyses }: Footage): number | null {
  const job = analyses.find(({ kind }) => kind === "following");
  return job && AT_WORK.includes(job.state) ? job.done_percent : null;
}

type BoxProps = { name: string; selected: boolean; onPick: (event: MouseEvent) => void };

/** The box that selects a cell; seen on hover and focus, and always where the pointer is a finger. */
function SelectBox({ name, selected, onPick }: BoxProps) {
  return (
    <label
      className={`absolute top-1 left-1 z-10 flex size-7 items-center justify-center rounded bg-paper pointer-coarse:size-11 pointer-coarse:opacity-100 ${
        selected ? "" : "opacity-0 group-focus-within:opacity-100 group-hover:opacity-100"
      }`}
    >
      <input
        type="checkbox"
        tabIndex={-1}
        aria-label={`Select ${name}`}
        checked={selected}
        className="accent-ochre"
        onChange={() => undefined}
        onClick={onPick}
      />
    </label>
  );
}

type PictureProps = { cell: Cell; frame: FrameRow; height: number; moment: Moment; alt: string };

/** The picture of a framing at a moment; under it, its middle, which stays in sight until the other is there. */
function CellPicture({ cell, frame: { frame }, height, moment, alt }: PictureProps) {
  const of = { framing: cell.id, stamp: cell.stamp, frame, height };
  return (
    <span className="relative block bg-well" style={{ width: aspectOf(frame) * height, height }}>
      <FramingPicture {...of} alt={alt} />
      {moment !== "middle" && (
        <>
          <FramingPicture {...of} at={moment} alt="" className="absolute inset-0" />
          <span className="num absolute right-0 bottom-0 bg-night px-1 text-chalk">{moment} frame</span>
        </>
      )}
    </span>
  );
}

/** The moment that a place across the picture stands for. */
function under({ clientX, currentTarget }: PointerEvent): Moment {
  const { left, width } = currentTarget.getBoundingClientRect();
  const third = Math.floor((3 * (clientX - left)) / width);
  return MOMENTS[Math.min(2, Math.max(0, third))] ?? "middle";
}

const EACH_MS = 700;

/** First, middle, last, and back to the middle. */
function playThrough(show: (moment: Moment) => void) {
  for (const [number, moment] of MOMENTS.entries()) setTimeout(() => show(moment), number * EACH_MS);
  setTimeout(() => show("middle"), MOMENTS.length * EACH_MS);
}
