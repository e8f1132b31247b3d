import { Dialog } from "radix-ui";
import type { CSSProperties } from "react";
import type { Board, Cell, Footage, Frame, Render } from "../api/client";
import { Button } from "../ui/button";
import { shown } from "../ui/exact";
import { Overlay } from "../ui/overlay";
import { PatientImage } from "../ui/patient-image";

type Props = {
  board: Board;
  footage: Footage;
  /** Finished renders by their framing. */
  finished: Map<number, Render>;
  onStep: (by: number) => void;
  onClose: () => void;
};

const ROOM = 1080; // pixels
const ABREAST = 4;

/** A clip in all its frames side by side, each at one scale; finished ones can be played. */
export function ClipShown({ board, footage, finished, onStep, onClose }: Props) {
  const cells = board.cells.filter((cell) => cell.footage === footage.id);
  // A few stand side by side; more than that go on below.
  const look = { maxWidth: `min(70vw, ${ROOM / Math.min(cells.length, ABREAST)}px)`, maxHeight: "60vh" };
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Overlay title={footage.name} width={1180}>
        <ul className="flex flex-wrap items-end justify-center gap-5 overflow-y-auto">
          {cells.map((cell) => {
            const into = board.frames.find(({ id }) => id === cell.frame)?.frame;
            const render = finished.get(cell.id);
            return into && <InFrame key={cell.id} {...{ board, footage, cell, into, render, look }} />;
          })}
        </ul>
        <div className="mt-4 flex gap-3">
          <Button onClick={() => onStep(-1)}>Previous clip</Button>
          <Button onClick={() => onStep(1)}>Next clip</Button>
        </div>
      </Overlay>
    </Dialog.Root>
  );
}

type InFrameProps = {
  board: Board;
  footage: Footage;
  cell: Cell;
  into: Frame;
  render: Render | undefined;
  look: CSSProperties;
};

/** The clip in one frame: its finished file if there is one, or its picture. */
function InFrame({ board, footage, cell, into, render, look }: InFrameProps) {
  const { id, stamp, placement, surround, kept_percent } = cell;
  return (
    <li className="grid gap-1">
      {render?.playable ? (
        // biome-ignore lint/a11y/useMediaCaption: it has the clip's own sound
        <video
          controls
          controlsList={board.downloads ? undefined : "nodownload"}
          preload="metadata"
          aria-label={`${footage.name} in ${into.name}, rendered`}
          poster={`/api/framings/${id}/thumbnail?width=480&stamp=${stamp}`}
          className="bg-well"
          style={look}
          src={`/api/renders/${render.id}/file`}
        />
      ) : (
        <PatientImage
          alt={`${footage.name} in ${into.name}`}
          className="bg-well"
          style={look}
          src={`/api/framings/${id}/thumbnail?width=480&stamp=${stamp}`}
        />
      )}
      <p>
        <span className="font-semibold">{into.name}</span>{" "}
        <span className="num text-soft">
          {into.width}×{into.height}
        </span>
      </p>
      <p className="max-w-72 text-soft first-letter:uppercase">
        {placement}, {surround}, kept {shown(kept_percent, 0)}%{render ? "; finished" : "; not rendered yet"}
      </p>
      {render && board.downloads && (
        <a
          className="text-ochre underline"
          aria-label={`Download in ${into.name}`}
          href={`/api/renders/${render.id}/file?download=true`}
        >
          Download
        </a>
      )}
    </li>
  );
}
