import { useState } from "react";
import { Link } from "react-router";
import { ShareDialog } from "../sharing/share-dialog";
import { Menu } from "../ui/menu";
import { PatientImage } from "../ui/patient-image";
import { RenameField } from "../ui/rename-field";
import type { ProjectLine, useProjects } from "./use-projects";

type Props = { row: ProjectLine; projects: ReturnType<typeof useProjects> };

/** A project in the list: what it looks like, how much is in it, and what can be done with it. */
export function ProjectRow({ row, projects }: Props) {
  const [renaming, setRenaming] = useState(false);
  const [sharing, setSharing] = useState(false);
  const many = (count: number, one: string) => `${count} ${one}${count === 1 ? "" : "s"}`;
  return (
    <li className="flex items-center gap-4 border-b border-rule hover:bg-sheet">
      {renaming ? (
        <div className="grow px-2 py-3">
          <RenameField
            name={row.name}
            onDone={(name) => {
              setRenaming(false);
              if (name && name !== row.name) projects.rename(row, name);
            }}
          />
        </div>
      ) : (
        <Link to={`/projects/${row.id}`} className="flex min-w-0 grow items-center gap-4 px-2 py-3">
          <span className="flex h-11 w-52 shrink-0 items-center gap-1 overflow-hidden bg-well/25 px-1">
            {row.framings.map((framing) => (
              <PatientImage
                key={framing}
                alt=""
                loading="lazy"
                decoding="async"
                className="max-h-10 max-w-16"
                src={`/api/framings/${framing}/thumbnail?width=160`}
              />
            ))}
          </span>
          <span className="min-w-0 grow">
            <span className="block wrap-anywhere font-semibold text-[15px]">{row.name}</span>
            <span className="num block text-soft">
              {many(row.clips, "clip")}, {many(row.frames, "frame")}
              {row.role !== "own" && `, of ${row.owner}, ${row.role === "see" ? "to look at" : "to work in"}`}
              {row.shared > 0 && row.role === "own" && `, shared with ${row.shared}`}
            </span>
          </span>
          <time className="num shrink-0 text-soft" dateTime={row.created}>
            {new Date(row.created).toLocaleDateString()}
          </time>
        </Link>
      )}
      <Menu
        opener="⋯"
        label={`More for ${row.name}`}
        look="mr-2 min-w-6 shrink-0 rounded px-2 py-1 text-soft hover:text-ink"
        items={
          row.role === "own"
            ? [
                ["Rename", () => setRenaming(true)],
                ["Share", () => setSharing(true)],
                ["Duplicate", () => projects.duplicate(row)],
                row.put_away
                  ? ["Fetch back", () => projects.putAway(row, false)]
                  : ["Put away", () => projects.putAway(row, true)],
                ["Delete", () => projects.remove(row)],
              ]
            : [["Leave", () => projects.leave(row)]]
        }
      />
      {sharing && <ShareDialog projectId={row.id} name={row.name} onClose={() => setSharing(false)} />}
    </li>
  );
}
