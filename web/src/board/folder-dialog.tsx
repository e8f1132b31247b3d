import { useQuery } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { folderQuery } from "../api/queries";
import { Overlay } from "../ui/overlay";
import { ProblemNote } from "../ui/problem-note";

type Props = { title: string; onChoose: (path: string) => void; onClose: () => void };

/** Footage in the folders that the server allows; it stays where it lies. */
export function FolderDialog({ title, onChoose, onClose }: Props) {
  const [path, setPath] = useState("");
  const { data, error } = useQuery(folderQuery(path));
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Overlay title={title} width={560}>
        <p className="num mb-3 break-words text-soft">{path || "Folders that this server allows"}</p>
        <ProblemNote error={error} />
        <ul className="max-h-80 overflow-y-auto border-y border-rule">
          {data?.up != null && <Line name="‹ up" onClick={() => setPath(data.up ?? "")} />}
          {data?.entries.map((entry) => (
            <Line
              key={entry.path}
              name={entry.name}
              kind={entry.kind === "file" ? "" : entry.kind === "sequence" ? "numbered stills" : "folder"}
              onClick={() => (entry.kind === "folder" ? setPath(entry.path) : onChoose(entry.path))}
            />
          ))}
          {data?.entries.length === 0 && (
            <li className="px-2 py-3 text-soft">There is no footage in this folder.</li>
          )}
        </ul>
      </Overlay>
    </Dialog.Root>
  );
}

function Line({ name, kind, onClick }: { name: string; kind?: string; onClick: () => void }) {
  return (
    <li>
      <button
        type="button"
        className="flex w-full items-baseline justify-between gap-3 px-2 py-1.5 text-left hover:bg-sheet"
        onClick={onClick}
      >
        <span className="break-all">{name}</span>
        <span className="num shrink-0 text-soft">{kind}</span>
      </button>
    </li>
  );
}
