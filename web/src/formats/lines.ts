import type { Catalogue, Frame } from "../api/client";
import { titleOf } from "../api/use-choices";
import { toNumber } from "../ui/exact";
import type { Line } from "./format-list";
import type { Shape } from "./outlines";

/** The rows of both lists: frames to deliver, and source formats with the ratios of film. */
export function linesOf(catalogue: Catalogue): { frames: Line[]; sources: Line[] } {
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
