"""Planes of Y'CbCr samples and where they lie."""

from dataclasses import dataclass, replace
from fractions import Fraction

import cv2
import numpy as np
from numpy.typing import NDArray

from cadrage.geometry import Raster, SourceRect
from cadrage.pixels.colour import Colour

PLANE_GROUPS = ((0,), (1, 2))
"""Planes that lie alike, and so can be drawn together."""
Samples = NDArray[np.uint8] | NDArray[np.uint16]
Working = NDArray[np.float32]
ROTATIONS = {90: cv2.ROTATE_90_CLOCKWISE, 180: cv2.ROTATE_180, 270: cv2.ROTATE_90_COUNTERCLOCKWISE}


@dataclass(frozen=True, slots=True)
class Subsampling:
    """How chroma samples lie among luma samples.

    Attributes:
        across, down: luma samples for one chroma sample in each direction: 1, 2 or 4.
        shift_x, shift_y: how far a chroma sample lies right of and below the centre of the block of luma samples
            it belongs to, in luma pixels. "Left" siting of 4:2:0 (ITU-T H.273, chroma sample location type 0) is
            shift_x = -1/2, shift_y = 0.
    """

    across: int
    down: int
    shift_x: Fraction = Fraction(0)
    shift_y: Fraction = Fraction(0)

    @classmethod
    def left(cls, across: int, down: int) -> "Subsampling":
        """Chroma in line with the first luma sample of each block across, centred down."""
        return cls(across, down, Fraction(1 - across, 2))

    def rotated(self, degrees: int) -> "Subsampling":
        """The same after turning the picture clockwise by a multiple of 90 degrees."""
        turned = self
        for _ in range(degrees // 90 % 4):
            turned = Subsampling(turned.down, turned.across, -turned.shift_y, turned.shift_x)
        return turned


@dataclass(frozen=True, slots=True)
class Crop:
    """Whole luma samples of a picture: columns left to right and rows top to bottom, ends not included."""

    left: int
    top: int
    right: int
    bottom: int

    @property
    def rect(self) -> SourceRect:
        """The same as a rectangle."""
        sides = (self.left, self.top, self.right - self.left, self.bottom - self.top)
        return SourceRect(*(Fraction(side) for side in sides))


CHROMA_420 = Subsampling.left(2, 2)
LUMA = Subsampling(1, 1)


@dataclass(frozen=True, slots=True)
class Layout:
    """What three planes hold.

    Attributes:
        width, height: luma samples.
        depth: bits of a sample, 8 to 16. Depth 8 is stored as uint8, all others as uint16.
        chroma: where the chroma samples lie.
        colour: what the samples mean.
    """

    width: int
    height: int
    depth: int
    chroma: Subsampling
    colour: Colour

    @property
    def dtype(self) -> type[np.uint8] | type[np.uint16]:
        """The array type of the planes."""
        return np.uint8 if self.depth == 8 else np.uint16

    def subsampling(self, plane: int) -> Subsampling:
        """How plane 0 (luma), 1 or 2 (chroma) lies among luma samples."""
        return self.chroma if plane else LUMA

    def shape(self, plane: int) -> tuple[int, int]:
        """Rows and columns of a plane; the last block may be cut by the edge of the picture."""
        by = self.subsampling(plane)
        return -(-self.height // by.down), -(-self.width // by.across)

    def rotated(self, degrees: int) -> "Layout":
        """The layout after turning clockwise by a multiple of 90 degrees."""
        raster = Raster(self.width, self.height).turned(degrees)
        return Layout(raster.width, raster.height, self.depth, self.chroma.rotated(degrees), self.colour)

    @property
    def mirrored(self) -> "Layout":
        """The layout after left and right have changed places."""
        by = self.chroma
        spill = self.width - by.across * self.shape(1)[1]
        return replace(self, chroma=replace(by, shift_x=spill - by.shift_x))

    def cut(self, cut: Crop) -> "Layout":
        """The layout of a part. A block of chroma that the cut goes through stays, with its siting kept true."""
        by = self.chroma
        shifted = replace(by, shift_x=by.shift_x - cut.left % by.across, shift_y=by.shift_y - cut.top % by.down)
        return replace(self, width=cut.right - cut.left, height=cut.bottom - cut.top, chroma=shifted)


@dataclass(frozen=True, slots=True, weakref_slot=True)
class Planes:
    """One picture: three arrays (rows, columns) of samples and their layout."""

    arrays: tuple[Samples, Samples, Samples]
    layout: Layout

    @classmethod
    def empty(cls, layout: Layout) -> "Planes":
        """Planes whose samples are not yet set."""
        y, cb, cr = (samples(np.empty(layout.shape(plane), layout.dtype)) for plane in range(3))
        return cls((y, cb, cr), layout)

    def rotated(self, degrees: int) -> "Planes":
        """The picture turned clockwise by 0, 90, 180 or 270 degrees; a copy unless 0."""
        if degrees % 360 == 0:
            return self
        code = ROTATIONS[degrees % 360]
        y, cb, cr = (samples(cv2.rotate(array, code)) for array in self.arrays)
        return Planes((y, cb, cr), self.layout.rotated(degrees))

    def mirrored(self) -> "Planes":
        """The picture with left and right exchanged; a copy."""
        y, cb, cr = (samples(cv2.flip(array, 1)) for array in self.arrays)
        return Planes((y, cb, cr), self.layout.mirrored)

    def cut(self, cut: Crop) -> "Planes":
        """A part of the picture; views, nothing is copied."""
        layout = self.layout.cut(cut)
        parts = []
        for plane, array in enumerate(self.arrays):
            by, (rows, columns) = layout.subsampling(plane), layout.shape(plane)
            top, left = cut.top // by.down, cut.left // by.across
            parts.append(samples(array[top : top + rows, left : left + columns]))
        y, cb, cr = parts
        return Planes((y, cb, cr), layout)

    @property
    def luma8(self) -> NDArray[np.uint8]:
        """Luma in codes of 8 bits; of a deeper picture without its last bits. A view where it has 8."""
        shift = self.layout.depth - 8
        luma = self.arrays[0] if shift <= 0 else self.arrays[0] >> shift
        return luma.astype(np.uint8, copy=False)

    def copy_from(self, other: "Planes") -> None:
        """Take over the samples of planes of the same layout."""
        for mine, theirs in zip(self.arrays, other.arrays, strict=True):
            np.copyto(mine, theirs)

    @property
    def nbytes(self) -> int:
        """Memory that the samples take."""
        return sum(array.nbytes for array in self.arrays)


def samples(array: object) -> Samples:
    """An array that is known to hold samples, for the type checker."""
    assert isinstance(array, np.ndarray)
    return array
