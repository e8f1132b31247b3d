import { Dialog } from "radix-ui";
import type { Board, Footage, Render } from "../api/client";
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
          {cells.map(({ id, frame, stamp, placement, surround, kept_percent }) => {
            const into = board.frames.find((one) => one.id === frame);
            const render = finished.get(id);
            if (!into) return null;
            return (
              <li key={id} className="grid gap-1">
                {render?.playable ? (
                  // biome-ignore lint/a11y/useMediaCaption: it has the clip's own sound
                  <video
                    controls
                    controlsList={board.downloads ? undefined : "nodownload"}
                    preload="metadata"
                    aria-label={`${footage.name} in ${into.frame.name}, rendered`}
                    poster={`/api/framings/${id}/thumbnail?width=480&stamp=${stamp}`}
                    className="bg-well"
                    style={look}
                    src={`/api/renders/${render.id}/file`}
                  />
                ) : (
                  <PatientImage
                    alt={`${footage.name} in ${into.frame.name}`}
                    className="bg-well"
                    style={look}
                    src={`/api/framings/${id}/thumbnail?width=480&stamp=${stamp}`}
                  />
                )}
                <p>
                  <span className="font-semibold">{into.frame.name}</span>{" "}
                  <span className="num text-soft">
                    {into.frame.width}×{into.frame.height}
                  </span>
                </p>
                <p className="max-w-72 text-soft first-letter:uppercase">
                  {placement}, {surround}, kept {shown(kept_percent, 0)}%
                  {render ? "; finished" : "; not rendered yet"}
                </p>
                {render && board.downloads && (
                  <a
                    className="text-ochre underline"
                    aria-label={`Download in ${into.frame.name}`}
                    href={`/api/renders/${render.id}/file?download=true`}
                  >
                    Download
                  </a>
                )}
              </li>
            );
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
