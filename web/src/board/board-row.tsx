import { type MouseEvent, memo, type Ref } from "react";
import type { Cell, Footage, FrameRow } from "../api/client";
import { AT_WORK } from "../api/queries";
import { stemOf } from "../ui/stem";
import { CellView } from "./cell-view";
import { ClipHeading } from "./clip-heading";

type Props = {
  projectId: number;
  footage: Footage;
  cells: (Cell | undefined)[];
  frames: FrameRow[];
  folders: boolean;
  /** Those of its cells that are selected, as text, so that a row is drawn again only when its own change. */
  selected: string;
  reachable: number | null;
  index: number;
  /** Measures the row, whose notes may make it higher. */
  measured: Ref<HTMLTableRowElement>;
  onPick: (event: MouseEvent, id: number) => void;
  onSelectRow: (ids: number[]) => void;
  onRemove: (footageId: number) => void;
};

/** A clip and its framings. */
export const BoardRow = memo(function BoardRow(props: Props) {
  const { projectId, footage, cells, frames, selected, reachable } = props;
  const chosen = selected ? selected.split(" ").map(Number) : [];
  const looking = footage.analyses.find(({ kind }) => kind === "following");
  const looked = looking && AT_WORK.includes(looking.state) ? looking.done_percent : null;
  return (
    <tr ref={props.measured} data-index={props.index} className="h-[97px] border-b border-rule align-top">
      <ClipHeading
        footage={footage}
        folders={props.folders}
        onSelect={() => props.onSelectRow(cells.flatMap((cell) => (cell ? [cell.id] : [])))}
        onRemove={() => props.onRemove(footage.id)}
      />
      {frames.map((frame, column) => {
        const cell = cells[column];
        return (
          <td key={frame.id} className="px-1 py-1 align-top">
            <CellView
              cell={cell}
              clip={stemOf(footage.name)}
              frame={frame}
              projectId={projectId}
              selected={!!cell && chosen.includes(cell.id)}
              reachable={!!cell && cell.id === reachable}
              looked={looked}
              onPick={props.onPick}
            />
          </td>
        );
      })}
    </tr>
  );
});
