import { useQuery } from "@tanstack/react-query";
import { type RefObject, useEffect, useRef, useState } from "react";
import { api, type Board } from "../api/client";
import { catalogueQuery, refreshFramings } from "../api/queries";
import { useSend } from "../api/use-send";
import type { Rendered } from "../rendering/rendered";
import { Button } from "../ui/button";
import { useKeys } from "../ui/keyboard";
import { EXTENDABLE, extendable, FAILED, failures, ORDERS, reasonCounts } from "./arranging";
import { HIGHEST, LOWEST, STEP, type usePictureHeight } from "./pictures";

type Props = {
  board: Board;
  renders: ReadonlyMap<number, Rendered>;
  query: URLSearchParams;
  onChange: (query: URLSearchParams) => void;
  pictures: ReturnType<typeof usePictureHeight>;
};

/** Which clips the board shows, and in what order. */
export function BoardFilter({ board, renders, query, onChange, pictures }: Props) {
  const { data: catalogue } = useQuery(catalogueQuery);
  const search = useRef<HTMLInputElement>(null);
  useKeys([{ keys: "/", does: "Search clips by name", act: () => search.current?.focus() }]);
  const counts: Record<string, number> = {
    ...reasonCounts(board),
    [FAILED]: failures(board, renders),
    [EXTENDABLE]: board.footage.filter(extendable).length,
  };
  const chosen = query.get("look");

  function set(name: string, value: string | null) {
    const next = new URLSearchParams(query);
    if (value) next.set(name, value);
    else next.delete(name);
    onChange(next);
  }

  const chips = [
    { reason: null, title: "All clips" },
    ...[
      { reason: "any", title: "To review" },
      ...(catalogue?.reasons ?? []),
      { reason: FAILED, title: "Render or check failed" },
      { reason: EXTENDABLE, title: "Can be extended" },
    ].filter(({ reason }) => counts[reason] || reason === chosen),
  ];
  return (
    <div className="mb-2 flex flex-wrap items-center gap-1.5">
      {chips.map(({ reason, title }) => (
        <button
          key={title}
          type="button"
          aria-pressed={chosen === reason}
          className={`rounded border px-2 py-0.5 ${
            chosen === reason ? "border-ochre bg-sheet font-semibold" : "border-rule text-soft hover:text-ink"
          }`}
          onClick={() => set("look", reason)}
        >
          {title}
          {reason && <span className="num ml-1.5">{counts[reason] ?? 0}</span>}
        </button>
      ))}
      {(chosen === EXTENDABLE || !counts[EXTENDABLE]) && <LookAtSides board={board} />}
      <div className="ml-auto flex flex-wrap items-center gap-2">
        <Search field={search} words={query.get("search") ?? ""} onWords={(words) => set("search", words)} />
        <Sort order={query.get("sort") ?? "added"} onOrder={(order) => set("sort", order)} />
        <PictureSize {...pictures} />
      </div>
    </div>
  );
}

type SortProps = { order: string; onOrder: (order: string | null) => void };

const Sort = ({ order, onOrder }: SortProps) => (
  <label className="flex items-center gap-2 text-soft">
    Sort
    <select
      aria-label="Sort"
      className="rounded border border-edge bg-sheet px-2 py-0.5 text-ink"
      value={order}
      onChange={({ target }) => onOrder(target.value === "added" ? null : target.value)}
    >
      {ORDERS.map(({ value, title }) => (
        <option key={value} value={value}>
          {title}
        </option>
      ))}
    </select>
  </label>
);

/** How high all pictures of the board are. */
export function PictureSize({ height, choose, reset }: ReturnType<typeof usePictureHeight>) {
  return (
    <label className="flex items-center gap-2 text-soft" title="Double-click: as large as fits">
      Pictures
      <input
        type="range"
        aria-label="Picture size"
        aria-valuetext={`${height} px`}
        className="w-24 accent-ochre"
        min={LOWEST}
        max={HIGHEST}
        step={STEP}
        value={height}
        onChange={({ target }) => choose(Number(target.value))}
        onDoubleClick={reset}
      />
    </label>
  );
}

type SearchProps = {
  field: RefObject<HTMLInputElement | null>;
  words: string;
  onWords: (words: string) => void;
};

/** Words to search clips for. The field shows the typed text at once; the address follows later. */
function Search({ field, words, onWords }: SearchProps) {
  const [typed, setTyped] = useState(words);
  /** Typed texts that have not come back from the address yet, the newest last. */
  const sent = useRef<string[]>([]);
  useEffect(() => {
    const place = sent.current.lastIndexOf(words);
    if (place >= 0) sent.current = sent.current.slice(place + 1);
    else setTyped(words); // changed by something else, such as going back
  }, [words]);

  function ask(next: string) {
    sent.current.push(next);
    setTyped(next);
    onWords(next);
  }

  return (
    <input
      ref={field}
      type="search"
      aria-label="Search clips"
      placeholder="Search clips  /"
      className="w-40 rounded border border-edge bg-sheet px-2 py-0.5"
      value={typed}
      onChange={({ target }) => ask(target.value)}
      onKeyDown={(event) => {
        if (event.key !== "Escape") return;
        event.stopPropagation();
        ask("");
        event.currentTarget.blur();
      }}
    />
  );
}

/** Analyse the sides of clips that have not been analysed. */
function LookAtSides({ board }: { board: Board }) {
  const look = useSend(
    () => api.POST("/api/projects/{project_id}/sides", { params: { path: { project_id: board.id } } }),
    { refresh: refreshFramings },
  );
  const sides = board.footage.map(({ analyses }) => analyses.find(({ kind }) => kind === "sides"));
  const left = sides.filter((job) => !job || job.state === "cancelled" || job.state === "failed").length;
  const going = sides.filter((job) => job?.state === "queued" || job?.state === "running").length;
  if (going > 0) return <span role="status">Analysing {going} …</span>;
  if (left === 0) return null;
  return (
    <Button look="link" disabled={look.isPending} onClick={() => look.mutate()}>
      Find clips to extend
    </Button>
  );
}
