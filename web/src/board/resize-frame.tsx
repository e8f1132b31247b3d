import { Dialog } from "radix-ui";
import { type FormEvent, useState } from "react";
import type { Frame } from "../api/client";
import { SameAsClip } from "../frames/same-as-clip";
import { Button } from "../ui/button";
import { Outline } from "../ui/outline";
import { Overlay } from "../ui/overlay";
import { SizeFields } from "../ui/size-fields";

type Size = Pick<Frame, "width" | "height">;
type Props = { projectId: number; frame: Frame; onClose: () => void; onResize: (size: Size) => void };

const DRAWN = 120;

/** A dialog in which a frame takes another size, both drawn at one scale. */
export function ResizeFrame({ projectId, frame, onClose, onResize }: Props) {
  const [size, setSize] = useState<Size>({ width: frame.width, height: frame.height });
  const same = size.width === frame.width && size.height === frame.height;
  const longest = Math.max(frame.width, frame.height, size.width, size.height);
  const scaled = (one: Size) => (Math.max(one.width, one.height) / longest) * DRAWN;

  function onSubmit(event: FormEvent) {
    event.preventDefault();
    if (!same) onResize(size);
  }

  return (
    <Dialog.Root open onOpenChange={(open) => open || onClose()}>
      <Overlay title={`Resize ${frame.name}`} width={520}>
        <form onSubmit={onSubmit} className="grid gap-4">
          <div className="flex flex-wrap items-center gap-2">
            <SizeFields {...size} onChange={setSize} />
            <SameAsClip projectId={projectId} onChoose={setSize} />
          </div>
          <div className="flex items-end gap-8" aria-hidden>
            {[
              ["now", { ...frame }],
              ["then", { ...frame, ...size }],
            ].map(([when, one]) => (
              <div key={when as string} className="grid justify-items-center gap-1 text-soft">
                <Outline frame={one as Frame} size={scaled(one as Frame)} />
                {when as string}
              </div>
            ))}
          </div>
          <p className="text-soft">
            Every clip in it follows: the same point of the picture stays in the middle, as tight as it is.
            Clips that keep less of their picture than now are listed afterwards.
          </p>
          <Button type="submit" look="main" disabled={same} className="justify-self-end">
            Resize
          </Button>
        </form>
      </Overlay>
    </Dialog.Root>
  );
}
