import { useQuery } from "@tanstack/react-query";
import type { FrameRow } from "../../api/client";
import { estimateOf } from "../../api/queries";
import { BarsChoice } from "../../frames/bars-choice";
import { FileSettings, usePreset } from "../../frames/file-settings";
import { useFrame } from "../../frames/use-frame";
import { megabytes } from "../../rendering/words";
import { Button } from "../../ui/button";
import { ProblemNote } from "../../ui/problem-note";
import { useBench } from "../state/use-bench";
import { KeepSettings } from "./keep-settings";

/** How files of the frame are written. */
export function FilePanel() {
  const { board, framing } = useBench("board", "framing");
  const row = board.frames.find(({ id }) => id === framing.frame);
  return (
    <section aria-label="File" className="grid gap-3">
      <h2 className="font-semibold">File</h2>
      {row && <File row={row} />}
    </section>
  );
}

function File({ row }: { row: FrameRow }) {
  const { joinable_tracks: joinable } = useBench("framing").framing;
  const { write: set, error } = useFrame(row);
  const { own } = usePreset(row.settings);
  const { sound, tracks } = row.settings;
  return (
    <>
      <ProblemNote error={error} />
      <BarsChoice {...{ row, set }} />
      <FileSettings {...{ row, set }} />
      {sound !== "none" && joinable && tracks !== joinable && (
        <Button onClick={() => set({ tracks: joinable })}>Join mono tracks into stereo</Button>
      )}
      <p>
        Example: <span className="num">{row.file}</span>.
      </p>
      <Size row={row} />
      <KeepSettings settings={row.settings} ownId={own?.id} />
    </>
  );
}

/** About how large this clip's file will be: some of its frames are encoded and counted. */
function Size({ row }: { row: FrameRow }) {
  const { framing } = useBench("framing");
  const { data, error } = useQuery(estimateOf(row, framing));
  if (error) return <ProblemNote error={error} />;
  if (data?.problem)
    return (
      <p className="text-soft">
        The file size could not be estimated: {data.problem} {data.remedy}
      </p>
    );
  return (
    <p className="text-soft">
      {data && data.bytes !== null
        ? `About ${megabytes(data.bytes)} for this clip; ${megabytes(data.free)} are free.`
        : `Encoding some frames to estimate the file size … ${data?.done_percent ?? 0}%`}
    </p>
  );
}
