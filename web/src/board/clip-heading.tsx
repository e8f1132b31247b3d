import { useState } from "react";
import { api, type Footage, postRaw } from "../api/client";
import { clipPicture } from "../api/pictures";
import { AT_WORK, refreshFramings } from "../api/queries";
import { useCalls } from "../api/use-send";
import { FailedAnalyses } from "../intake/failed-analyses";
import { damagedIn } from "../intake/noticed";
import { type Items, Menu, Pressed } from "../ui/menu";
import { PatientImage } from "../ui/patient-image";
import { ProblemNote } from "../ui/problem-note";
import { RenameField } from "../ui/rename-field";
import { stemOf } from "../ui/stem";
import { useFilePicker } from "../ui/use-file-picker";
import type { Row } from "./arranging";
import { useBoard, useBoardState } from "./board-store";
import { FolderDialog } from "./folder-dialog";
import { useToggle } from "./use-grid-keys";

/** The drag data type of a clip. */
export const CLIP = "application/x-cadrage-clip";

type Props = { footage: Footage; cells: Row["cells"]; index: number };

/** A clip at the head of its row, with its findings and actions. */
export function ClipHeading({ footage, cells, index }: Props) {
  const { folders } = useBoard("folders");
  const state = useBoardState();
  const toggle = useToggle();
  const [renaming, setRenaming] = useState(false);
  const [finding, setFinding] = useState(false);
  const { rename, replace, find, error } = useClip(footage);
  const stem = stemOf(footage.name);
  const replacing = useFilePicker({
    label: `File in place of ${stem}`,
    onFiles: ([file]) => file && replace(file),
  });

  const items: Items = [
    ["Rename", () => setRenaming(true)],
    ["Replace by another file", () => replacing.pick()],
    ...(folders ? ([["Find on the server", () => setFinding(true)]] as const) : []),
    ...useMoves(footage.id, index),
    ["Remove", () => state().removeClip(footage.id)],
  ];
  return (
    <th scope="row" className="py-3 pr-3 text-left font-normal">
      <div className="flex items-start justify-between">
        <RowHandle {...{ footage, items }} onSelect={() => toggle(cells)} />
        <Menu
          opener="•••"
          look="min-w-6 rounded px-1.5 text-soft hover:bg-sheet hover:text-ink"
          label={`Actions for ${stem}`}
          items={items}
        />
      </div>
      <ClipTitle
        name={footage.name}
        renaming={renaming}
        onDone={(name) => {
          setRenaming(false);
          if (name && name !== footage.name) rename(name);
        }}
      />
      <p className="num text-soft">{footage.summary}</p>
      <Notes footage={footage} />
      <ProblemNote error={error} />
      {replacing.field}
      {finding && (
        <FolderDialog
          title={`Find ${stem} again`}
          onClose={() => setFinding(false)}
          onChoose={(path) => {
            setFinding(false);
            find(path);
          }}
        />
      )}
    </th>
  );
}

type HandleProps = { footage: Footage; items: Items; onSelect: () => void };

/** The clip's picture, which selects its row, moves it, and opens its menu by the right button. */
function RowHandle({ footage, items, onSelect }: HandleProps) {
  const { arrangeable } = useBoard("arrangeable");
  return (
    <Pressed items={items}>
      <button
        type="button"
        title={arrangeable ? "Select the row; drag to move it" : "Select the row"}
        aria-label={`Select the row of ${stemOf(footage.name)}`}
        draggable={arrangeable}
        onDragStart={({ dataTransfer }) => dataTransfer.setData(CLIP, String(footage.id))}
        onClick={onSelect}
      >
        <ClipPicture footage={footage} />
      </button>
    </Pressed>
  );
}

type TitleProps = { name: string; renaming: boolean; onDone: (name: string | null) => void };

const ClipTitle = ({ name, renaming, onDone }: TitleProps) =>
  renaming ? (
    <RenameField name={name} most={240} onDone={onDone} />
  ) : (
    <p className="mt-1 font-semibold wrap-anywhere">{stemOf(name)}</p>
  );

/** A clip at the head of its row on a board that is only viewed. */
export const ClipName = ({ footage }: { footage: Footage }) => (
  <th scope="row" className="py-3 pr-3 text-left font-normal">
    <ClipPicture footage={footage} />
    <span className="block font-semibold wrap-anywhere">{stemOf(footage.name)}</span>
    <span className="num block text-soft">{footage.summary}</span>
  </th>
);

/** Moving the row of a clip up and down, where that is possible. */
function useMoves(id: number, index: number): Items {
  const { arrangeable, rows, arrange } = useBoard("arrangeable", "rows", "arrange");
  const clipAt = (at: number) => rows[at]?.footage.id ?? null;
  if (!arrangeable) return [];
  return [
    ...(index > 0 ? ([["Move up", () => arrange(id, clipAt(index - 1))]] as const) : []),
    ...(index < rows.length - 1 ? ([["Move down", () => arrange(id, clipAt(index + 2))]] as const) : []),
  ];
}

/** The clip's own picture, small: which clip it is. */
const ClipPicture = ({ footage }: { footage: Footage }) => (
  <PatientImage
    alt=""
    loading="lazy"
    decoding="async"
    draggable={false}
    className="h-[72px] max-w-40 bg-well object-contain"
    src={clipPicture(footage, footage.interpretation, { width: 160 })}
  />
);

function Notes({ footage }: { footage: Footage }) {
  const { bars, analysing, missing, twin, damaged_places: places } = footage;
  return (
    <>
      {places > 0 && <p className="text-rust">{damagedIn(places)}.</p>}
      {missing && <p className="text-rust">The file is missing. Replace it, or find it again.</p>}
      {twin && <p className="text-rust">The same file as {stemOf(twin)}.</p>}
      {analysing && !missing && <p className="text-soft">{lookingFor(footage)}</p>}
      {!missing && <FailedAnalyses footage={footage} />}
      {bars && ["bars", "surround", "changing"].includes(bars.kind) && (
        <p className="num text-soft">{bars.summary}</p>
      )}
    </>
  );
}

function useClip({ id: footage_id }: Footage) {
  const params = { path: { footage_id } };
  const { mutate, error } = useCalls({ refresh: refreshFramings });
  return {
    error,
    rename: (name: string) =>
      mutate(() => api.PATCH("/api/footage/{footage_id}", { params, body: { name } })),
    find: (path: string) =>
      mutate(() => api.POST("/api/footage/{footage_id}/find", { params, body: { path } })),
    replace: (file: File) =>
      mutate(() => {
        const body = new FormData();
        body.append("file", file);
        const response = postRaw(`/api/footage/${footage_id}/replace`, { body });
        return response.then((answer) => ({ response: answer }));
      }),
  };
}

/** The name of the analysis in progress. */
function lookingFor({ analyses }: Footage): string {
  const others = analyses.some(({ kind, state }) => kind !== "following" && AT_WORK.includes(state));
  return others ? "Looking for bars and fields …" : "Analysing movement …";
}
