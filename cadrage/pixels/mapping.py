"""Where samples of one plane lie on another, and how much of each a rectangle covers."""

from dataclasses import dataclass
from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

from cadrage.geometry import FrameRect
from cadrage.pixels.planes import Layout
from cadrage.pixels.resample import Axis


@dataclass(frozen=True, slots=True)
class Area:
    """Whole samples of a plane: rows top to bottom, columns left to right, ends not included."""

    top: int
    bottom: int
    left: int
    right: int

    @classmethod
    def of(cls, shape: tuple[int, int]) -> "Area":
        """All of a plane of so many rows and columns."""
        return cls(0, shape[0], 0, shape[1])

    @property
    def slices(self) -> tuple[slice, slice]:
        """The area as array indices."""
        return slice(self.top, self.bottom), slice(self.left, self.right)

    def clipped(self, other: "Area") -> "Area":
        """The part that lies in another area too; empty where there is none."""
        top, left = max(self.top, other.top), max(self.left, other.left)
        return Area(top, max(top, min(self.bottom, other.bottom)), left, max(left, min(self.right, other.right)))

    def moved(self, down: int, right: int) -> "Area":
        """The same elsewhere."""
        return Area(self.top + down, self.bottom + down, self.left + right, self.right + right)

    @property
    def empty(self) -> bool:
        """Whether there is no sample in it."""
        return self.top >= self.bottom or self.left >= self.right


def touched(flags: NDArray[np.bool_], area: Area) -> Area:
    """The smallest area inside another that holds every flagged sample of it; an empty one where none is."""
    part = flags[area.slices]
    (top, bottom), (left, right) = (extent(np.asarray(part.any(axis=axis))) for axis in (1, 0))
    return Area(area.top + top, area.top + bottom, area.left + left, area.left + right)


def canvas_rect(rect: FrameRect, frame_size: tuple[int, int], canvas: Layout) -> FrameRect:
    """A rectangle in frame pixels as one in luma samples of a canvas on which the frame is drawn, any size."""
    across, down = Fraction(canvas.width, frame_size[0]), Fraction(canvas.height, frame_size[1])
    return FrameRect(rect.x * across, rect.y * down, rect.width * across, rect.height * down)


def plane_axes(source: Layout, canvas: Layout, plane: int, rect: FrameRect) -> tuple[Axis, Axis]:
    """How a plane of the canvas reads a plane of the source, downwards and across.

    Args:
        source: the picture that is drawn.
        canvas: what it is drawn on.
        plane: 0 luma, 1 and 2 chroma; their siting is taken into account on both sides.
        rect: where the picture lies, in luma samples of the canvas.
    """
    by, of = canvas.subsampling(plane), source.subsampling(plane)
    down = _axis(by.down, by.shift_y, of.down, of.shift_y, rect.y, source.height / rect.height)
    across = _axis(by.across, by.shift_x, of.across, of.shift_x, rect.x, source.width / rect.width)
    return down, across


def _axis(by: int, shift: Fraction, of: int, source_shift: Fraction, edge: Fraction, step: Fraction) -> Axis:
    """Sample position p of the canvas plane lies at luma position by·p + shift; the same with `of` in the source."""
    return Axis(((shift - edge) * step - source_shift) / of, by * step / of)


@dataclass(frozen=True, slots=True)
class Coverage:
    """How much of each sample of a plane a rectangle covers; the product of a row's and a column's share.

    Attributes:
        rows, columns: shares from 0 to 1, float32, one for each row and column of the plane.
    """

    rows: NDArray[np.float32]
    columns: NDArray[np.float32]

    @classmethod
    def of(cls, canvas: Layout, plane: int, rect: FrameRect) -> "Coverage":
        """What a rectangle, in luma samples of the canvas, covers of a plane.

        A chroma sample that is not centred on its block reaches past the canvas; what is there counts as covered
        where the rectangle meets the canvas's edge.
        """
        height, width = canvas.shape(plane)
        by = canvas.subsampling(plane)
        top, bottom = _opened(rect.y, rect.bottom, canvas.height)
        left, right = _opened(rect.x, rect.right, canvas.width)
        return cls(
            shares(height, (top - by.shift_y) / by.down, (bottom - by.shift_y) / by.down),
            shares(width, (left - by.shift_x) / by.across, (right - by.shift_x) / by.across),
        )

    @property
    def touched(self) -> Area:
        """The samples of which anything is covered."""
        return Area(*extent(self.rows > 0), *extent(self.columns > 0))

    @property
    def uncovered(self) -> tuple[Area, ...]:
        """Areas that hold every sample which is not fully covered, without overlap: above, below, left, right."""
        height, width = len(self.rows), len(self.columns)
        top, bottom = extent(self.rows == 1)
        left, right = extent(self.columns == 1)
        if top == bottom or left == right:
            return (Area(0, height, 0, width),)
        areas = (
            Area(0, top, 0, width),
            Area(bottom, height, 0, width),
            Area(top, bottom, 0, left),
            Area(top, bottom, right, width),
        )
        return tuple(area for area in areas if not area.empty)


def _opened(low: Fraction, high: Fraction, length: int) -> tuple[Fraction, Fraction]:
    """Two edges, each moved well outward where it meets or passes the end of a line of samples."""
    far = Fraction(length)
    return (-far if low <= 0 else low), (2 * far if high >= length else high)


def shares(count: int, low: Fraction | float, high: Fraction | float) -> NDArray[np.float32]:
    """How much of each of some samples in a row lies between two positions, 0 to 1."""
    starts = np.arange(count)
    covered = np.minimum(starts + 1, float(high)) - np.maximum(starts, float(low))
    clipped: NDArray[np.float32] = np.clip(covered, 0, 1).astype(np.float32)
    return clipped


def extent(flags: NDArray[np.bool_]) -> tuple[int, int]:
    """From the first flag that is set to behind the last; 0 and 0 where none is."""
    found = np.flatnonzero(flags)
    return (int(found[0]), int(found[-1]) + 1) if len(found) else (0, 0)
