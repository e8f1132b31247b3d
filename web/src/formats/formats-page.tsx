import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { catalogueQuery } from "../api/queries";
import { Header } from "../shell/header";
import { Button } from "../ui/button";
import { ProblemNote } from "../ui/problem-note";
import { FormatList } from "./format-list";
import { linesOf } from "./lines";
import { Outlines } from "./outlines";
import { OwnFormats } from "./own-formats";

const FIRST = ["frame Wide 1920×1080", "frame Upright 1080×1920", "frame 4:3 1440×1080"];

/** Source formats and frames, as numbers with their sources and as outlines over one another. */
export function FormatsPage() {
  const { data: catalogue, error } = useQuery(catalogueQuery);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set(FIRST));
  const [lit, setLit] = useState<string | null>(null);
  const [by, setBy] = useState<Scale>("pixels");
  const [list, setList] = useState<List>("frames");
  const lines = catalogue ? linesOf(catalogue) : { frames: [], sources: [] };
  const shapes = [...lines.frames, ...lines.sources].filter(({ shape }) => chosen.has(shape.key));

  function toggle(key: string) {
    const next = new Set(chosen);
    if (!next.delete(key)) next.add(key);
    setChosen(next);
  }

  return (
    <div className="flex min-h-full flex-col">
      <Header
        trail={
          <>
            <Link className="text-soft hover:text-ink" to="/">
              Projects
            </Link>
            <span className="text-soft">/</span>
            <span className="font-semibold">Formats</span>
          </>
        }
      />
      <main
        id="main"
        tabIndex={-1}
        className="outline-none grid grow grid-cols-[minmax(0,1fr)_minmax(0,640px)] narrow:grid-cols-[minmax(0,1fr)] content-start gap-6 p-6"
      >
        <section>
          <h1 className="mb-3 text-[26px] font-bold tracking-tight">Formats</h1>
          <ProblemNote error={error} />
          <Tabs list={list} onList={setList} />
          <FormatList lines={lines[list]} chosen={chosen} onToggle={toggle} onLight={setLit} />
        </section>
        <section>
          <div className="sticky narrow:static top-4 grid gap-4">
            <Outlines shapes={shapes.map(({ shape }) => shape)} lit={lit} by={by} />
            <div className="flex items-center gap-4">
              <Scales by={by} onBy={setBy} />
              <span className="grow" />
              <Button look="link" onClick={() => setChosen(new Set())}>
                Clear
              </Button>
            </div>
            {catalogue && <OwnFormats catalogue={catalogue} />}
          </div>
        </section>
      </main>
    </div>
  );
}

type List = "frames" | "sources";
type Scale = "pixels" | "height";

const Tabs = ({ list, onList }: { list: List; onList: (list: List) => void }) => (
  <div role="tablist" className="mb-2 flex gap-5">
    {(["frames", "sources"] as const).map((name) => (
      <button
        key={name}
        type="button"
        role="tab"
        aria-selected={list === name}
        className={`border-b-2 px-1 pb-1 ${list === name ? "border-ochre font-semibold" : "border-transparent text-soft"}`}
        onClick={() => onList(name)}
      >
        {name === "frames" ? "Frames to deliver" : "Source formats"}
      </button>
    ))}
  </div>
);

const Scales = ({ by, onBy }: { by: Scale; onBy: (by: Scale) => void }) =>
  (["pixels", "height"] as const).map((way) => (
    <label key={way} className="flex items-center gap-1.5">
      <input
        type="radio"
        name="by"
        className="accent-ochre"
        checked={by === way}
        onChange={() => onBy(way)}
      />
      {way === "pixels" ? "in their own pixels" : "all of one height"}
    </label>
  ));
