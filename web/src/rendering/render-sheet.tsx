import { useQuery } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useState } from "react";
import type { Schemas } from "../api/client";
import { boardQuery } from "../api/queries";
import { Button } from "../ui/button";
import { Overlay } from "../ui/overlay";
import { ProblemNote } from "../ui/problem-note";
import { TickRow } from "../ui/tick-row";
import { FramesFiles } from "./frames-files";
import { ReviewNotice } from "./review-notice";

type Review = Schemas["ReviewOut"];
type Props = {
  projectId: number;
  review: Review;
  busy: boolean;
  error: unknown;
  /** File settings were changed from here: the review is out of date. */
  onChanged: () => void;
  onConfirm: (review: Review, remembered: boolean) => void;
  onClose: () => void;
};

/** What is about to be rendered: reasons to look at it first, then the files of each frame, which can be changed. */
export function RenderSheet({ projectId, review, busy, error, onChanged, onConfirm, onClose }: Props) {
  const [remembered, setRemembered] = useState(false);
  const { data: board } = useQuery(boardQuery(projectId));
  const rows = new Map(board?.frames.map((row) => [row.id, row]));
  const count = review.files.reduce((total, { framings }) => total + framings.length, 0);
  const blocked = review.notices.some(({ blocks }) => blocks);
  return (
    <Dialog.Root open onOpenChange={(open) => open || onClose()}>
      <Overlay title="Before rendering" width={760}>
        <div className="grid min-h-0 gap-4 overflow-y-auto" data-testid="review">
          <ProblemNote error={error} />
          {review.notices.length > 0 && (
            <ul className="grid gap-2" aria-label="To check">
              {review.notices.map((notice) => (
                <ReviewNotice
                  key={`${notice.reason} ${notice.remedy} ${notice.places[0]?.framing}`}
                  {...{ notice, rows, onChanged }}
                />
              ))}
            </ul>
          )}
          {review.files.map((files) => {
            const row = rows.get(files.frame);
            return row && <FramesFiles key={files.frame} {...{ files, row, onChanged }} />;
          })}
        </div>
        <div className="mt-4 flex flex-wrap items-center gap-3 border-t border-rule pt-4">
          <span className="grow">
            <TickRow ticked={remembered} onChange={setRemembered}>
              Do not show again until something changes
            </TickRow>
          </span>
          <Button look="quiet" onClick={onClose}>
            Cancel
          </Button>
          <Button
            look="main"
            autoFocus
            disabled={busy || blocked}
            onClick={() => onConfirm(review, remembered)}
          >
            Render {count} {count === 1 ? "file" : "files"}
          </Button>
        </div>
      </Overlay>
    </Dialog.Root>
  );
}
