"""Ink: colours and how much of each pixel they cover, gathered in square pixels, then laid on planes at once.

Graphics are drawn once and converted once: to a gain and an offset for each sample of each plane.
"""

from dataclasses import dataclass
from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

from cadrage.geometry import FrameRect
from cadrage.pixels.colour import parse_colour, rgb_from_ycc
from cadrage.pixels.kernels import Kernel
from cadrage.pixels.mapping import Area, plane_axes
from cadrage.pixels.planes import LUMA, Layout, Planes, Working
from cadrage.pixels.resample import TILE_COLUMNS, TILE_ROWS, Resampler, bands, limit, settle

AROUND = 4  # luma samples kept around what is inked, so that chroma finds its neighbours


@dataclass(frozen=True, slots=True)
class _Plane:
    """What is done to one area of a plane: code · gain + offset."""

    area: Area
    gain: Working
    offset: Working


@dataclass(frozen=True, slots=True)
class Laid:
    """Ink made ready for planes of one layout."""

    planes: tuple[_Plane, ...]
    depth: int

    def lay(self, canvas: Planes, opacity: float = 1.0) -> None:
        """Lay it on, as strong as is said, 0 to 1."""
        if opacity <= 0:
            return
        for part, plane in zip(self.planes, canvas.arrays, strict=True):
            under = plane[part.area.slices]
            working: Working = under.astype(np.float32)
            if opacity >= 1:
                working *= part.gain
                working += part.offset
            else:
                working *= 1 - np.float32(opacity) * (1 - part.gain)
                working += np.float32(opacity) * part.offset
            limit(working, self.depth)
            settle(working, under, self.depth)


class Ink:
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
        rows = _shares(self.height, top, bottom)
        columns = _shares(self.width, left, right)
        top_, bottom_ = _extent(rows)
        left_, right_ = _extent(columns)
        share = rows[top_:bottom_, None] * columns[None, left_:right_] * np.float32(opacity)
        self.cover(share, left_, top_, colour)

    def cover(self, share: NDArray[np.float32], left: float, top: float, colour: str) -> None:
        """Lay one colour on, as much as is said of each pixel: (rows, columns), 0 to 1. Its place is rounded."""
        rgb = np.array(parse_colour(colour), np.float32)
        self.image(np.dstack([share[..., None] * rgb, share]), left, top)

    def image(self, drawn: NDArray[np.float32], left: float, top: float) -> None:
        """Lay a picture on: (rows, columns, 4), R'G'B' times coverage, and coverage. What lies outside is left out."""
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

    def laid(self) -> Laid | None:
        """Made ready for the canvas; None where nothing is drawn."""
        inked = np.argwhere(self._drawn[..., 3] > 0)
        if not inked.size:
            return None
        aspect = self.width / self.canvas.width
        (top, left), (bottom, right) = inked.min(axis=0), inked.max(axis=0) + 1
        box = (left / aspect - AROUND, top - AROUND, right / aspect + AROUND, bottom + AROUND)
        source = Layout(self.width, self.height, 8, LUMA, self.canvas.colour)
        return Laid(tuple(self._plane(source, plane, box) for plane in range(3)), self.canvas.depth)

    def _plane(self, source: Layout, plane: int, box: tuple[float, float, float, float]) -> _Plane:
        canvas, by = self.canvas, self.canvas.subsampling(plane)
        rows, columns = canvas.shape(plane)
        area = Area(
            max(0, int(box[1]) // by.down),
            min(rows, -(-int(box[3]) // by.down)),
            max(0, int(box[0]) // by.across),
            min(columns, -(-int(box[2]) // by.across)),
        )
        whole = FrameRect(Fraction(0), Fraction(0), Fraction(canvas.width), Fraction(canvas.height))
        down, across = plane_axes(source, canvas, plane, whole)
        resampler = Resampler(
            bands(down, range(area.top, area.bottom), self.height, _tent(float(down.step)), TILE_ROWS),
            bands(across, range(area.left, area.right), self.width, _tent(float(across.step)), TILE_COLUMNS),
        )
        black, span, chroma = canvas.colour.span(canvas.depth)
        weights = np.linalg.inv(rgb_from_ycc(canvas.colour.matrix))[plane].astype(np.float32)
        share = np.clip(resampler.draw(np.ascontiguousarray(self._drawn[..., 3])), 0, 1)
        level = resampler.draw(np.ascontiguousarray(self._drawn[..., :3] @ weights))
        origin, unit = (2.0 ** (canvas.depth - 1), chroma) if plane else (black, span)
        offset: Working = (share * np.float32(origin) + level * np.float32(unit)).astype(np.float32)
        return _Plane(area, 1 - share, offset)


def _tent(step: float) -> Kernel:
    """Straight interpolation; widened where samples are joined. It never overshoots, so no letter gets a rim."""
    width = max(1.0, step)
    return Kernel(width, lambda distance: np.maximum(0, 1 - np.abs(distance) / width))


def _shares(count: int, low: float, high: float) -> NDArray[np.float32]:
    starts = np.arange(count)
    shares: NDArray[np.float32] = np.clip(np.minimum(starts + 1, high) - np.maximum(starts, low), 0, 1).astype(
        np.float32
    )
    return shares


def _extent(shares: NDArray[np.float32]) -> tuple[int, int]:
    found = np.flatnonzero(shares)
    return (int(found[0]), int(found[-1]) + 1) if len(found) else (0, 0)
