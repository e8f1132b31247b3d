import { useQueryClient } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { type ReactNode, useEffect, useState } from "react";
import type { Board, FrameRow } from "../api/client";
import { HelpLink } from "../ui/help-link";
import { Overlay } from "../ui/overlay";
import { ProblemNote } from "../ui/problem-note";
import { BarsChoice } from "./bars-choice";
import { changesSettled } from "./use-change";
import { useFrame } from "./use-frame";

/**
 * Before something is rendered: frames whose files may hold bars or not are asked about where one is. What was to be
 * done is done once all is said.
 */
export function useBarsAsked(board: Board | undefined) {
  const client = useQueryClient();
  const [asked, setAsked] = useState<{ frames: number[]; then: () => void } | null>(null);
  const open = undecided(board, asked?.frames ?? []);
  useEffect(() => {
    if (!asked || open.length > 0) return;
    setAsked(null);
    asked.then();
  }, [asked, open.length]);
  return {
    /** Do something that renders into frames. */
    async before(frames: number[], then: () => void) {
      // A frame that was changed a moment ago may need the question only once the server has stored the change.
      await changesSettled(client);
      setAsked({ frames, then });
    },
    question: (
      <Dialog.Root open={asked !== null && open.length > 0} onOpenChange={(on) => on || setAsked(null)}>
        <Overlay title="Bars in the file?" width={460}>
          <p className="mb-3 text-soft">
            The active picture is smaller than the frame. Choose, and rendering starts.
          </p>
          <HelpLink task="bars">Which of them?</HelpLink>
          <div className="grid gap-5 overflow-y-auto">
            {open.map((row) => (
              <OneFrame key={row.id} row={row} />
            ))}
          </div>
        </Overlay>
      </Dialog.Root>
    ) as ReactNode,
  };
}

const undecided = (board: Board | undefined, frames: number[]) =>
  (board?.frames ?? []).filter(({ id, bars }) => frames.includes(id) && bars && !bars.decided);

function OneFrame({ row }: { row: FrameRow }) {
  const { write, error } = useFrame(row);
  return (
    <section aria-label={row.frame.name}>
      <h3 className="mb-1 font-semibold">{row.frame.name}</h3>
      <ProblemNote error={error} />
      <BarsChoice row={row} set={write} />
    </section>
  );
}
