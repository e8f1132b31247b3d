import { Button } from "../ui/button";
import { ProblemNote } from "../ui/problem-note";
import { useUploads } from "./uploads";

/** Uploads in progress, and refused ones with the reason. */
export function UploadList() {
  const { uploads, close } = useUploads();
  if (uploads.length === 0) return null;
  return (
    <ul aria-label="Uploads" className="mb-4 grid gap-2">
      {uploads.map((upload) =>
        upload.problem ? (
          <li key={upload.key}>
            <ProblemNote error={upload.problem} onClose={() => close(upload.key)} />
          </li>
        ) : (
          <li
            key={upload.key}
            className="flex items-center gap-4 rounded border border-rule bg-sheet px-3 py-2"
          >
            <span className="w-64 truncate font-semibold">{upload.name}</span>
            <progress className="h-1 grow" value={upload.fraction} max={1} />
            <span className="num w-52 text-soft">
              {
                {
                  waiting: "queued",
                  sending: `sent ${Math.floor(upload.fraction * 100)}%`,
                  broken: "the line broke, trying again",
                  probing: "looking at the file",
                  refused: "",
                }[upload.state]
              }
            </span>
            <Button look="quiet" of={upload.name} onClick={upload.stop}>
              Cancel
            </Button>
          </li>
        ),
      )}
    </ul>
  );
}
