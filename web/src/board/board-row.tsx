import { type DragEvent, memo, type Ref } from "react";
import type { Row } from "./arranging";
import { useBoard, useBoardState } from "./board-store";
import { CellView } from "./cell-view";
import { CLIP, ClipHeading, ClipName } from "./clip-heading";

type Props = {
  row: Row;
  index: number;
  /** Measures the row, whose notes may make it higher. */
  measured: Ref<HTMLTableRowElement>;
};

/** A clip and its framings. */
export const BoardRow = memo(function BoardRow({ row: { footage, cells }, index, measured }: Props) {
  const { board, working, arrangeable } = useBoard("board", "working", "arrangeable");
  const dropTarget = useDropTarget(footage.id);
  return (
    <tr
      ref={measured}
      data-index={index}
      aria-rowindex={index + 2}
      className="border-b border-rule align-top data-over:border-t-2 data-over:border-t-ochre"
      {...(arrangeable && dropTarget)}
    >
      {working ? <ClipHeading {...{ footage, cells, index }} /> : <ClipName footage={footage} />}
      {board.frames.map((frame, column) => {
        const cell = cells[column];
        return cell ? <CellView key={frame.id} {...{ cell, footage, frame }} /> : <td key={frame.id} />;
      })}
      {/* The space beside the last frame: a clip that is dragged can be dropped there too. */}
      <td aria-hidden />
    </tr>
  );
});

/** A clip that is dropped on a row is put before it. */
function useDropTarget(id: number) {
  const state = useBoardState();
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
      state().arrange(Number(event.dataTransfer.getData(CLIP)), id);
    },
  };
}
