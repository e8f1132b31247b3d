import { useState } from "react";
import { Link } from "react-router";
import { ShareDialog } from "../sharing/share-dialog";
import { Menu } from "../ui/menu";
import { PatientImage } from "../ui/patient-image";
import { RenameField } from "../ui/rename-field";
import type { ProjectLine, useProjects } from "./use-projects";

type Props = { row: ProjectLine; projects: ReturnType<typeof useProjects> };

/** A project: some of its pictures, its frames, renders in progress, and its actions. */
export function ProjectRow({ row, projects }: Props) {
  const [renaming, setRenaming] = useState(false);
  const [sharing, setSharing] = useState(false);
  return (
    <li className="relative grid content-start gap-2 border-t border-rule pt-3">
      <Link
        to={`/projects/${row.id}`}
        aria-label={renaming ? row.name : undefined}
        className="grid gap-2 outline-offset-4"
      >
        <Pictures framings={row.framings} />
        {!renaming && <span className="pr-8 wrap-anywhere font-semibold text-[15px]">{row.name}</span>}
      </Link>
      {renaming && (
        <RenameField
          name={row.name}
          onDone={(name) => {
            setRenaming(false);
            if (name && name !== row.name) projects.rename(row, name);
          }}
        />
      )}
      <p className="text-soft wrap-anywhere">
        {row.delivers.slice(0, NAMED).join(", ")}
        {row.delivers.length > NAMED && ` +${row.delivers.length - NAMED}`}
      </p>
      <p className="num text-soft">
        {many(row.clips, "clip")} · {many(row.frames, "frame")} ·{" "}
        <time dateTime={row.created}>{day(row.created)}</time>
        {row.role !== "own" && ` · ${row.owner}, ${row.role === "see" ? "can view" : "can edit"}`}
        {row.shared > 0 && row.role === "own" && ` · shared with ${row.shared}`}
      </p>
      {row.rendering > 0 && <p className="num text-ochre">Rendering {many(row.rendering, "file")}</p>}
      <div className="absolute right-0 top-[158px]">
        <Menu
          opener="•••"
          label={`Actions for ${row.name}`}
          look="min-w-6 rounded px-1.5 py-1 text-soft hover:bg-sheet hover:text-ink"
          items={
            row.role === "own"
              ? [
                  ["Rename", () => setRenaming(true)],
                  ["Share", () => setSharing(true)],
                  ["Duplicate", () => projects.duplicate(row)],
                  row.put_away
                    ? ["Restore", () => projects.putAway(row, false)]
                    : ["Archive", () => projects.putAway(row, true)],
                  ["Delete", () => projects.remove(row)],
                ]
              : [["Leave", () => projects.leave(row)]]
          }
        />
      </div>
      {sharing && <ShareDialog projectId={row.id} name={row.name} onClose={() => setSharing(false)} />}
    </li>
  );
}

/** Frames that are named; of more it is said how many. */
const NAMED = 4;

/** Some of its framings, all of one height, as many as find room. */
function Pictures({ framings }: { framings: number[] }) {
  return (
    <span className="flex h-36 gap-1 overflow-hidden bg-well/25">
      {framings.map((framing) => (
        <PatientImage
          key={framing}
          alt=""
          loading="lazy"
          decoding="async"
          className="h-36 w-auto max-w-none"
          src={`/api/framings/${framing}/thumbnail?width=240`}
        />
      ))}
      {framings.length === 0 && (
        <span className="m-auto text-ink" aria-hidden="true">
          No clips yet
        </span>
      )}
    </span>
  );
}

const many = (count: number, one: string) => `${count} ${one}${count === 1 ? "" : "s"}`;

const DAY = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", year: "numeric" });
const day = (time: string) => DAY.format(new Date(time));
