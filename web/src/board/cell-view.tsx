import { useQueryClient } from "@tanstack/react-query";
import { type KeyboardEvent, type MouseEvent, type PointerEvent, useState } from "react";
import { Link } from "react-router";
import type { Cell, FrameRow } from "../api/client";
import { framingQuery } from "../api/queries";
import { aspectOf } from "../frames/aspect";
import { FramingPicture, MOMENTS, type Moment } from "../frames/framing-picture";
import { CellDetails, placed, secondLine } from "./cell-words";

type Props = {
  cell: Cell | undefined;
  /** The name of its clip. */
  clip: string;
  frame: FrameRow;
  /** Of its picture, in pixels. */
  height: number;
  /** Where a press leads; without it, `onOpen` is called. */
  to: string | null;
  onOpen: (id: number) => void;
  selected: boolean;
  reachable: boolean;
  /** How much of the clip was analysed for following, in percent; null where nothing is being analysed. */
  looked: number | null;
  /** Whether its last render, or the check of it, failed, and the result as text. */
  failed: boolean;
  rendered: string;
  /** Selects it; null where nothing can be selected. */
  onPick: ((event: MouseEvent, id: number) => void) | null;
};

/** One framing: its picture, its placement and surround, and the most important line. More on hover and focus. */
export function CellView(props: Props) {
  const { cell, clip, frame, height, to, selected, reachable, onPick } = props;
  const client = useQueryClient();
  const [moment, setMoment] = useState<Moment>("middle");
  if (!cell) return null;
  const { looked, rendered, failed } = props;
  const known = { cell, looked, rendered, failed };
  const line = secondLine(known);
  const name = `${clip} in ${frame.frame.name}`;
  const link = {
    "data-cell": cell.id,
    tabIndex: reachable ? 0 : -1,
    draggable: false,
    className: "block text-left outline-offset-4",
    onPointerDown: () => to && client.prefetchQuery(framingQuery(cell.id)),
    onPointerMove: (event: PointerEvent) => event.pointerType === "mouse" && setMoment(under(event)),
    onPointerLeave: () => setMoment("middle"),
    onClick(event: MouseEvent) {
      if (onPick && (event.shiftKey || event.ctrlKey || event.metaKey)) {
        event.preventDefault();
        onPick(event, cell.id);
      } else if (!to) props.onOpen(cell.id);
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
  return (
    <div
      className={`group relative rounded ${selected ? "bg-sheet outline-2 outline-offset-4 outline-ochre" : ""}`}
    >
      {onPick && <SelectBox name={name} selected={selected} onPick={(event) => onPick(event, cell.id)} />}
      {to ? (
        <Link to={to} {...link}>
          {inside}
        </Link>
      ) : (
        <button type="button" {...link}>
          {inside}
        </button>
      )}
    </div>
  );
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
