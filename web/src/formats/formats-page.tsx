import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import type { Catalogue, Frame } from "../api/client";
import { catalogueQuery } from "../api/queries";
import { titleOf } from "../api/use-choices";
import { Header } from "../shell/header";
import { Button } from "../ui/button";
import { toNumber } from "../ui/exact";
import { ProblemNote } from "../ui/problem-note";
import { FormatList, type Line } from "./format-list";
import { Outlines, type Shape } from "./outlines";
import { OwnFormats } from "./own-formats";

const FIRST = ["frame Wide 1920×1080", "frame Upright 1080×1920", "frame 4:3 1440×1080"];

/** Source formats and frames, as numbers with their sources and as outlines over one another. */
export function FormatsPage() {
  const { data: catalogue, error } = useQuery(catalogueQuery);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set(FIRST));
  const [lit, setLit] = useState<string | null>(null);
  const [by, setBy] = useState<"pixels" | "height">("pixels");
  const [list, setList] = useState<"frames" | "sources">("frames");
  const lines = catalogue ? linesOf(catalogue) : { frames: [], sources: [] };
  const shapes = [...lines.frames, ...lines.sources].filter(({ shape }) => chosen.has(shape.key));

  function toggle(key: string) {
    const next = new Set(chosen);
    if (!next.delete(key)) next.add(key);
    setChosen(next);
  }

  const tab = (name: typeof list) =>
    `border-b-2 px-1 pb-1 ${list === name ? "border-ochre font-semibold" : "border-transparent text-soft"}`;
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
        className="outline-none grid grow grid-cols-[minmax(0,1fr)_minmax(0,640px)] gap-6 p-6"
      >
        <section>
          <h1 className="mb-3 text-[26px] font-bold tracking-tight">Formats</h1>
          <ProblemNote error={error} />
          <div role="tablist" className="mb-2 flex gap-5">
            {(["frames", "sources"] as const).map((name) => (
              <button
                key={name}
                type="button"
                role="tab"
                aria-selected={list === name}
                className={tab(name)}
                onClick={() => setList(name)}
              >
                {name === "frames" ? "Frames to deliver" : "Source formats"}
              </button>
            ))}
          </div>
          <FormatList lines={lines[list]} chosen={chosen} onToggle={toggle} onLight={setLit} />
        </section>
        <section>
          <div className="sticky top-4 grid gap-4">
            <Outlines shapes={shapes.map(({ shape }) => shape)} lit={lit} by={by} />
            <div className="flex items-center gap-4">
              {(["pixels", "height"] as const).map((way) => (
                <label key={way} className="flex items-center gap-1.5">
                  <input
                    type="radio"
                    name="by"
                    className="accent-ochre"
                    checked={by === way}
                    onChange={() => setBy(way)}
                  />
                  {way === "pixels" ? "in their own pixels" : "all of one height"}
                </label>
              ))}
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

function linesOf(catalogue: Catalogue): { frames: Line[]; sources: Line[] } {
  const own = catalogue.own.map(({ frame, shape }) => frameLine(frame, shape, "Your own", "saved by you"));
  const offered = catalogue.frames.map(({ format, shape }) =>
    frameLine(format.frame, shape, format.group, format.source),
  );
  const sources = catalogue.sources.map(({ format, shape }) => ({
    group: titleOf(catalogue.choices.conventions, format.convention),
    source: format.source,
    aspect: shape,
    pixels: format.pixel_aspect,
    shape: shapeOf(`source ${format.convention}`, format),
  }));
  const films = catalogue.ratios.map(({ aspect, name }) => ({
    group: "Film ratios",
    source: "common practice, no source",
    aspect: toNumber(aspect).toFixed(2),
    pixels: "1",
    shape: { key: `film ${aspect}`, name, width: toNumber(aspect) * 1080, height: 1080, own: "" },
  }));
  const squeezes = catalogue.squeezes.map((squeeze) => ({
    group: "Anamorphic, on a 4:3 raster",
    source: "common practice, no source",
    aspect: ((4 / 3) * toNumber(squeeze)).toFixed(2),
    pixels: squeeze,
    shape: {
      key: `squeeze ${squeeze}`,
      name: `squeezed ${toNumber(squeeze).toFixed(2)}×`,
      width: 1440 * toNumber(squeeze),
      height: 1080,
      own: "1440×1080",
    },
  }));
  return { frames: [...own, ...offered], sources: [...sources, ...squeezes, ...films] };
}

function frameLine(frame: Frame, aspect: string, group: string, source: string): Line {
  return { group, source, aspect, pixels: frame.pixel_aspect, shape: shapeOf("frame", frame) };
}

type Raster = { name: string; width: number; height: number; pixel_aspect: string };

function shapeOf(kind: string, { name, width, height, pixel_aspect }: Raster): Shape {
  const own = `${width}×${height}`;
  return { key: `${kind} ${name} ${own}`, name, width: width * toNumber(pixel_aspect), height, own };
}
