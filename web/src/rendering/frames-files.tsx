import { useQuery } from "@tanstack/react-query";
import type { FrameRow, Schemas } from "../api/client";
import { estimateQuery } from "../api/queries";
import { FileSettings } from "../frames/file-settings";
import { toNumber } from "../ui/exact";
import { Fold } from "../ui/fold";
import { ProblemNote } from "../ui/problem-note";
import { useFileChange } from "./use-file-change";
import { duration, megabytes } from "./words";

type Files = Schemas["FilesOut"];
type Props = { files: Files; row: FrameRow; onChanged: () => void };

/** The files of one frame that are about to be rendered: how they are written, how long and large they will be. */
export function FramesFiles({ files, row, onChanged }: Props) {
  const { set, error } = useFileChange(row, onChanged);
  const bytes = useBytes(files, row);
  const { framings, expected_seconds, name } = files;
  const lines = [
    ...files.facts,
    { label: "Length", value: duration(toNumber(files.seconds)) },
    { label: "File size", value: bytes === null ? "being estimated …" : `about ${megabytes(bytes)}` },
    {
      label: "Time",
      value:
        expected_seconds === null ? "known after the first render" : `about ${duration(expected_seconds)}`,
    },
  ];
  return (
    <section aria-label={files.title} className="grid gap-2 rounded border border-rule bg-sheet p-3">
      <h3 className="flex flex-wrap items-baseline justify-between gap-x-4">
        <span className="font-semibold">
          {files.title}
          {framings.length > 1 && <span className="num font-normal text-soft"> {framings.length} files</span>}
        </span>
        <span className="num text-soft wrap-anywhere">{name}</span>
      </h3>
      <dl className="grid grid-cols-2 gap-x-4 gap-y-1 sm:grid-cols-[auto_1fr_auto_1fr]">
        {lines.map(({ label, value }) => (
          <div key={label} className="contents">
            <dt className="text-soft">{label}</dt>
            <dd className="num">{value}</dd>
          </div>
        ))}
      </dl>
      <ProblemNote error={error} />
      <Fold title="Change" state="">
        <FileSettings row={row} set={set} />
      </Fold>
    </section>
  );
}

/** Bytes of all files: by their rate, or as many a second as the first one has, of which some frames are encoded. */
function useBytes({ framings, bytes, seconds, first_seconds }: Files, row: FrameRow): number | null {
  const [first = 0] = framings;
  const { data } = useQuery({ ...estimateQuery(first, row), enabled: bytes === null });
  if (bytes !== null) return bytes;
  if (data?.bytes == null || toNumber(first_seconds) === 0) return null;
  return (data.bytes * toNumber(seconds)) / toNumber(first_seconds);
}
