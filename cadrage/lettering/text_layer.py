"""Ink: colours and how much of each pixel they cover, gathered in square pixels, then laid on planes at once.

Graphics are drawn once and converted once: to a gain and an offset for each sample of each plane.
"""

from dataclasses import dataclass
from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

from cadrage.geometry import FrameRect
from cadrage.pixels.blend import Layer
from cadrage.pixels.colour import parse_colour, rgb_from_ycc
from cadrage.pixels.kernels import Kernel
from cadrage.pixels.light import seen_in
from cadrage.pixels.mapping import Area, extent, plane_axes, shares, touched
from cadrage.pixels.planes import LUMA, Layout, Planes, Working
from cadrage.pixels.resample import TILE_COLUMNS, TILE_ROWS, Resampler, resampling_weights

AROUND = 4  # luma samples kept around what is inked, so that chroma finds its neighbours


@dataclass(frozen=True, slots=True)
class Laid:
    """Ink made ready for planes of one layout: for each, the parts that are inked."""

    planes: tuple[tuple[Layer, ...], ...]
    depth: int

    def blend(self, canvas: Planes, opacity: float = 1.0) -> None:
        """Lay it on, as strong as is said, 0 to 1."""
        if opacity <= 0:
            return
        for parts, plane in zip(self.planes, canvas.arrays, strict=True):
            for part in parts:
                part.blend(plane, self.depth, opacity)


class TextLayer:
    """A sheet to draw on, over the whole of a canvas, in square pixels of a canvas line's height.

    Args:
        canvas: what it will be laid on.
        pixel_aspect: width of one luma sample of the canvas for its height.
    """

    def __init__(self, canvas: Layout, pixel_aspect: float) -> None:
        self.canvas = canvas
        self.height, self.width = canvas.height, max(1, round(canvas.width * pixel_aspect))
        self._drawn = np.zeros((self.height, self.width, 4), np.float32)  # R'G'B' times coverage, and coverage

    def wash(self, left: float, top: float, right: float, bottom: float, colour: str, opacity: float = 1.0) -> None:
        """Fill a rectangle; edges between pixels cover them in part."""
        rows = shares(self.height, top, bottom)
        columns = shares(self.width, left, right)
        top_, bottom_ = extent(rows > 0)
        left_, right_ = extent(columns > 0)
        share = rows[top_:bottom_, None] * columns[None, left_:right_] * np.float32(opacity)
        self.cover(share, left_, top_, colour)

    def cover(self, share: NDArray[np.float32], left: float, top: float, colour: str) -> None:
        """Lay one colour on, as much as is said of each pixel: (rows, columns), 0 to 1. Its place is rounded."""
        rgb = seen_in(parse_colour(colour), self.canvas.colour).astype(np.float32)
        self.image(np.dstack([share[..., None] * rgb, share]), left, top)

    def image(self, drawn: NDArray[np.float32], left: float, top: float) -> None:
        """Lay a picture on: (rows, columns, 4), R'G'B' as the canvas means it times coverage, and coverage.

        What lies outside is left out.
        """
        x, y = round(left), round(top)
        rows, columns = drawn.shape[:2]
        first, last = max(0, y), min(self.height, y + rows)
        begin, end = max(0, x), min(self.width, x + columns)
        if first >= last or begin >= end:
            return
        part = drawn[first - y : last - y, begin - x : end - x]
        under = self._drawn[first:last, begin:end]
        under *= 1 - part[..., 3:]
        under += part

    def laid(self, areas: tuple[tuple[Area, ...], ...] | None = None) -> Laid | None:
        """Made ready for the canvas; None where nothing is drawn.

        Args:
            areas: for each plane, the samples that can be seen; all unless given.
        """
        inked = touched(self._drawn[..., 3] > 0, Area(0, self.height, 0, self.width))
        if inked.empty:
            return None
        return Laid(
            tuple(self._parts(plane, inked, None if areas is None else areas[plane]) for plane in range(3)),
            self.canvas.depth,
        )

    def _parts(self, plane: int, inked: Area, areas: tuple[Area, ...] | None) -> tuple[Layer, ...]:
        box = self._box(plane, inked)
        source = Layout(self.width, self.height, 8, LUMA, self.canvas.colour)
        whole = FrameRect(Fraction(0), Fraction(0), Fraction(self.canvas.width), Fraction(self.canvas.height))
        down, across = plane_axes(source, self.canvas, plane, whole)
        resampler = Resampler(
            resampling_weights(down, range(box.top, box.bottom), self.height, _tent(float(down.step)), TILE_ROWS),
            resampling_weights(across, range(box.left, box.right), self.width, _tent(float(across.step)), TILE_COLUMNS),
        )
        depth = self.canvas.depth
        black, span, chroma = self.canvas.colour.code_range(depth)
        weights = np.linalg.inv(rgb_from_ycc(self.canvas.colour.matrix))[plane].astype(np.float32)
        share = np.clip(resampler.draw(np.ascontiguousarray(self._drawn[..., 3])), 0, 1)
        level = resampler.draw(np.ascontiguousarray(self._drawn[..., :3] @ weights))
        origin, unit = (2.0 ** (depth - 1), chroma) if plane else (black, span)
        offset: Working = (share * np.float32(origin) + level * np.float32(unit)).astype(np.float32)
        seen = [box] if areas is None else [area.clipped(box) for area in areas]
        parts = []
        for area in seen:
            inner = touched(share > 0, area.moved(-box.top, -box.left))
            if not inner.empty:
                gain, shown = 1 - share[inner.slices], np.ascontiguousarray(offset[inner.slices])
                parts.append(Layer(inner.moved(box.top, box.left), gain, shown))
        return tuple(parts)

    def _box(self, plane: int, inked: Area) -> Area:
        """The samples of a plane that what is inked can reach."""
        by, (rows, columns) = self.canvas.subsampling(plane), self.canvas.shape(plane)
        aspect = self.width / self.canvas.width
        left, right = int(inked.left / aspect) - AROUND, int(inked.right / aspect) + AROUND
        top, bottom = inked.top - AROUND, inked.bottom + AROUND
        reach = Area(top // by.down, -(-bottom // by.down), left // by.across, -(-right // by.across))
        return reach.clipped(Area(0, rows, 0, columns))


def _tent(step: float) -> Kernel:
    """Straight interpolation; widened where samples are joined. It never overshoots, so no letter gets a rim."""
    width = max(1.0, step)
    return Kernel(width, lambda distance: np.maximum(0, 1 - np.abs(distance) / width))
