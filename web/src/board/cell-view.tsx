import { useQueryClient } from "@tanstack/react-query";
import type { MouseEvent } from "react";
import { Link } from "react-router";
import type { Cell, FrameRow } from "../api/client";
import { shown, toNumber } from "../api/exact";
import { framingQuery } from "../api/queries";
import { PatientImage } from "../ui/patient-image";

const THUMBNAIL_HEIGHT = 72;
const WIDEST_THUMBNAIL = 112;
/** What a cell shows: its middle, or, where it moves, its first, middle and last frame. */
const MIDDLE = ["middle"];
const ENDS = ["first", "middle", "last"];

type Props = {
  cell: Cell | undefined;
  /** The name of its clip. */
  clip: string;
  frame: FrameRow;
  projectId: number;
  selected: boolean;
  reachable: boolean;
  /** How much of the clip was looked at to see what moves, in percent; null where nobody is at it. */
  looked: number | null;
  /** What came of its last render, in words. */
  rendered: string;
  onPick: (event: MouseEvent, id: number) => void;
};

/** One framing: as it will be rendered, what it keeps, and why it needs a look. */
export function CellView(props: Props) {
  const { cell, clip, frame, projectId, selected, reachable, looked, rendered, onPick } = props;
  const client = useQueryClient();
  if (!cell) return null;
  const aspect = (frame.frame.width / frame.frame.height) * toNumber(frame.frame.pixel_aspect);
  const moments = cell.movement ? ENDS : MIDDLE;
  const width = Math.min(WIDEST_THUMBNAIL / moments.length, THUMBNAIL_HEIGHT * aspect);
  const concern = cell.concerns[0];
  const more = cell.concerns.length - 1;

  function onClick(event: MouseEvent) {
    if (!event.shiftKey && !event.ctrlKey && !event.metaKey) return;
    event.preventDefault();
    onPick(event, cell?.id ?? 0);
  }

  return (
    <div
      className={`group relative rounded ${selected ? "bg-sheet outline-2 outline-ochre" : "hover:bg-sheet"}`}
    >
      <label
        className={`absolute top-0 left-0 z-10 flex size-7 items-center justify-center pointer-coarse:size-11 pointer-coarse:opacity-100 ${
          selected ? "" : "opacity-0 group-focus-within:opacity-100 group-hover:opacity-100"
        }`}
      >
        <input
          type="checkbox"
          tabIndex={-1}
          aria-label={`Select ${clip} in ${frame.frame.name}`}
          checked={selected}
          className="accent-ochre"
          onChange={() => undefined}
          onClick={(event) => onPick(event, cell.id)}
        />
      </label>
      <Link
        to={`/projects/${projectId}/framings/${cell.id}`}
        data-cell={cell.id}
        tabIndex={reachable ? 0 : -1}
        draggable={false}
        className="flex items-center gap-3 px-2 py-2"
        onPointerDown={() => client.prefetchQuery(framingQuery(cell.id))}
        onClick={onClick}
      >
        <span className="flex shrink-0 justify-center">
          {moments.map((at, number) => (
            <PatientImage
              key={at}
              alt={`${at === "middle" ? "" : `${at} frame, `}${cell.placement} in ${frame.frame.name}`}
              loading="lazy"
              decoding="async"
              draggable={false}
              className={`bg-well ${number ? "ml-0.5" : ""}`}
              style={{ width, height: width / aspect }}
              src={`/api/framings/${cell.id}/thumbnail?width=240&stamp=${cell.stamp}&at=${at}`}
            />
          ))}
        </span>
        <span className="min-w-0">
          <span className="sr-only">
            {clip} into {frame.frame.name}:
          </span>
          <span className="block font-semibold first-letter:uppercase">{cell.placement}</span>
          <span className="block text-soft first-letter:uppercase">{cell.surround}</span>
          {cell.movement && <span className="block text-soft first-letter:uppercase">{cell.movement}</span>}
          {cell.unsolved && <Looking done={looked} />}
          <span className="num block text-soft">
            kept {cell.movement ? "at least " : ""}
            {shown(cell.kept_percent, 1)} %{cell.obeys ? "" : ", its own"}
          </span>
          {rendered && (
            <span className={`num block ${rendered.includes("failed") ? "text-rust" : "text-moss"}`}>
              {rendered}
            </span>
          )}
          {concern && (
            <span className="num block text-rust">
              {concern.summary}
              {more > 0 && ` +${more}`}
            </span>
          )}
        </span>
      </Link>
    </div>
  );
}

function Looking({ done }: { done: number | null }) {
  return (
    <span role="status" className="num block text-ochre">
      {done === null ? "to follow: nothing found to" : `looking at what moves … ${done} %`}
    </span>
  );
}
