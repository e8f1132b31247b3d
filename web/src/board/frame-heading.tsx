import { useState } from "react";
import { Link } from "react-router";
import type { FrameRow } from "../api/client";
import { shown } from "../ui/exact";
import { type Items, Menu } from "../ui/menu";
import { RenameField } from "../ui/rename-field";
import { useBoard } from "./board-store";
import { ResizeFrame } from "./resize-frame";
import { useToggle } from "./use-grid-keys";

const sizeOf = ({ shape, frame }: FrameRow) =>
  `${shape} ${frame.width}×${frame.height}${frame.active ? `, ${shown(frame.active)} inside` : ""}`;

/** A frame at the head of its column on a board that is only viewed. */
export const FrameName = ({ row }: { row: FrameRow }) => (
  <th scope="col" className="py-2 pr-3 font-normal">
    <span className="block font-bold wrap-anywhere">{row.frame.name}</span>
    <span className="num block text-soft">{sizeOf(row)}</span>
  </th>
);

/** A frame at the head of its column, with its actions. */
export function FrameHeading({ row, column }: { row: FrameRow; column: number }) {
  const { board, rows, frames } = useBoard("board", "rows", "frames");
  const toggle = useToggle();
  const top = rows[0]?.cells[column];
  const bench = top ? `/projects/${board.id}/framings/${top.id}?step=frame` : null;
  const [renaming, setRenaming] = useState(false);
  const [resizing, setResizing] = useState(false);
  const { frame } = row;
  const items: Items = [
    ["Rename", () => setRenaming(true)],
    ["Resize", () => setResizing(true)],
    ...(column === 0 ? [] : ([["Move left", () => frames?.move(row, -1)]] as const)),
    ...(column === board.frames.length - 1 ? [] : ([["Move right", () => frames?.move(row, 1)]] as const)),
    ["Remove", () => frames?.remove(row)],
  ];
  return (
    <th scope="col" className="py-2 pr-3">
      <div className="flex items-start gap-1">
        <div className="min-w-0">
          <HeadingName
            name={frame.name}
            renaming={renaming}
            onSelect={() => toggle(rows.map(({ cells }) => cells[column]))}
            onDone={(name) => {
              setRenaming(false);
              if (name && name !== frame.name) frames?.rename(row, name);
            }}
          />
          <HeadingSize address={bench} size={sizeOf(row)} />
        </div>
        <Menu
          opener="•••"
          look="min-h-6 min-w-6 shrink-0 rounded px-1 font-normal text-soft hover:bg-sheet hover:text-ink"
          label={`Actions for the frame ${frame.name}`}
          items={items}
        />
      </div>
      {resizing && (
        <ResizeFrame
          projectId={board.id}
          frame={frame}
          onClose={() => setResizing(false)}
          onResize={(wanted) => {
            setResizing(false);
            frames?.resize(row, wanted);
          }}
        />
      )}
    </th>
  );
}

type NameProps = {
  name: string;
  renaming: boolean;
  onDone: (name: string | null) => void;
  onSelect: () => void;
};

const HeadingName = ({ name, renaming, onDone, onSelect }: NameProps) =>
  renaming ? (
    <RenameField name={name} most={80} onDone={onDone} />
  ) : (
    <button
      type="button"
      title="Select the whole column"
      className="block min-h-6 text-left wrap-anywhere font-bold hover:underline"
      onClick={onSelect}
    >
      {name}
    </button>
  );

/** The size of a frame, which leads to it on the bench where it has a clip. */
const HeadingSize = ({ address, size }: { address: string | null; size: string }) =>
  address ? (
    <Link
      title="Open this frame on the bench"
      className="num block min-h-6 font-normal text-soft hover:text-ink"
      to={address}
    >
      {size}
    </Link>
  ) : (
    <span className="num block font-normal text-soft">{size}</span>
  );
