import { type DragEvent, type MouseEvent, memo, type Ref } from "react";
import type { Cell, Footage, FrameRow } from "../api/client";
import { AT_WORK } from "../api/queries";
import { stemOf } from "../ui/stem";
import { CellView } from "./cell-view";
import { CLIP, ClipHeading, ClipPicture } from "./clip-heading";

type Props = {
  projectId: number;
  footage: Footage;
  cells: (Cell | undefined)[];
  frames: FrameRow[];
  folders: boolean;
  /** Whether the board is worked on, and not only looked at. */
  working: boolean;
  /** Of its pictures, in pixels. */
  height: number;
  /** Those of its cells that are selected, as text, so that a row is drawn again only when its own change. */
  selected: string;
  reachable: number | null;
  /** Those of its cells whose render or check failed, in the same way. */
  failed: string;
  /** The result of the last render of each cell, a line each. */
  rendered: string;
  /** The clips that it would stand before if it went up, or down, by one; 0 is the end, null where it cannot. */
  above: number | null;
  below: number | null;
  onArrange: (id: number, before: number) => void;
  index: number;
  /** Measures the row, whose notes may make it higher. */
  measured: Ref<HTMLTableRowElement>;
  onPick: (event: MouseEvent, id: number) => void;
  onSelectRow: (ids: number[]) => void;
  onRemove: (footageId: number) => void;
  onOpen: (cell: number) => void;
};

/** A clip and its framings. */
export const BoardRow = memo(function BoardRow(props: Props) {
  const { projectId, footage, cells, frames, selected, reachable, above, below, working, onArrange } = props;
  const rendered = props.rendered.split("\n");
  const arranged = above !== null || below !== null;
  const chosen = idsIn(selected);
  const failed = idsIn(props.failed);
  const looking = footage.analyses.find(({ kind }) => kind === "following");
  const looked = looking && AT_WORK.includes(looking.state) ? looking.done_percent : null;
  return (
    <tr
      ref={props.measured}
      data-index={props.index}
      aria-rowindex={props.index + 2}
      className="border-b border-rule align-top data-over:border-t-2 data-over:border-t-ochre"
      {...(arranged && taking(footage.id, onArrange))}
    >
      {working ? (
        <ClipHeading
          footage={footage}
          folders={props.folders}
          onSelect={() => props.onSelectRow(cells.flatMap((cell) => (cell ? [cell.id] : [])))}
          onRemove={() => props.onRemove(footage.id)}
          onUp={above === null ? null : () => onArrange(footage.id, above)}
          onDown={below === null ? null : () => onArrange(footage.id, below)}
        />
      ) : (
        <th scope="row" className="py-3 pr-3 text-left font-normal">
          <ClipPicture footage={footage} />
          <span className="block font-semibold wrap-anywhere">{stemOf(footage.name)}</span>
          <span className="num block text-soft">{footage.summary}</span>
        </th>
      )}
      {frames.map((frame, column) => {
        const cell = cells[column];
        return (
          // biome-ignore lint/a11y/useFocusableInteractive: the link inside takes the focus
          <td
            key={frame.id}
            // biome-ignore lint/a11y/noNoninteractiveElementToInteractiveRole: a cell of a table that is a grid
            role="gridcell"
            aria-selected={!!cell && chosen.includes(cell.id)}
            className="py-3 pr-3 align-top"
          >
            <CellView
              cell={cell}
              clip={stemOf(footage.name)}
              frame={frame}
              height={props.height}
              to={working && cell ? `/projects/${projectId}/framings/${cell.id}` : null}
              onOpen={props.onOpen}
              selected={!!cell && chosen.includes(cell.id)}
              reachable={!!cell && cell.id === reachable}
              looked={looked}
              failed={!!cell && failed.includes(cell.id)}
              rendered={rendered[column] ?? ""}
              onPick={working ? props.onPick : null}
            />
          </td>
        );
      })}
      {/* The room beside the last frame: a clip that is dragged can be let go there as well. */}
      <td aria-hidden />
    </tr>
  );
});

const idsIn = (text: string) => (text ? text.split(" ").map(Number) : []);

/** A clip that is dragged over a row is put before it. */
function taking(id: number, onArrange: (id: number, before: number) => void) {
  const carries = ({ dataTransfer }: DragEvent) => dataTransfer.types.includes(CLIP);
  return {
    onDragOver: (event: DragEvent<HTMLTableRowElement>) => {
      if (!carries(event)) return;
      event.preventDefault();
      event.currentTarget.dataset.over = "";
    },
    onDragLeave: ({ currentTarget }: DragEvent<HTMLTableRowElement>) => {
      delete currentTarget.dataset.over;
    },
    onDrop: (event: DragEvent<HTMLTableRowElement>) => {
      delete event.currentTarget.dataset.over;
      if (!carries(event)) return;
      event.preventDefault();
      onArrange(Number(event.dataTransfer.getData(CLIP)), id);
    },
  };
}
