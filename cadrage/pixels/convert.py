"""Changing what samples mean: from one matrix and range to another, once."""

from fractions import Fraction

import numpy as np

from cadrage.pixels.colour import Colour, ycc_change
from cadrage.pixels.kernels import sampling_kernel
from cadrage.pixels.planes import Layout, Planes, Working
from cadrage.pixels.resample import TILE_COLUMNS, TILE_ROWS, Axis, Resampler, clip_codes, quantise, resampling_weights

CONVERTED_DEPTH = 16


class ColourChange:
    """Converts pictures of one layout to another colour, with 16 bits kept for the result.

    Luma needs the chroma beside it, so chroma is drawn at the place of every luma sample; chroma needs luma only
    where matrices disagree about white, which they never do, so chroma planes are mixed as they stand. Only the
    matrix and the range change: R'G'B' stays as it was, so primaries and transfer keep their meaning.
    """

    def __init__(self, source: Layout, target: Colour) -> None:
        self.source = source
        self.layout = Layout(source.width, source.height, CONVERTED_DEPTH, source.chroma, target)
        self.matrix = ycc_change(source.colour.matrix, target.matrix)
        rows, columns = source.shape(1)
        by = source.chroma
        down = Axis(-by.shift_y / by.down, Fraction(1, by.down))
        across = Axis(-by.shift_x / by.across, Fraction(1, by.across))
        kernel = sampling_kernel(0.5)
        self._to_luma = Resampler(
            resampling_weights(down, range(source.height), rows, kernel, TILE_ROWS),
            resampling_weights(across, range(source.width), columns, kernel, TILE_COLUMNS),
        )

    def apply(self, planes: Planes) -> Planes:
        """Convert one picture."""
        y, cb, cr = (self._unit(planes, plane) for plane in range(3))
        matrix = self.matrix.astype(np.float32)
        if self.source.colour.matrix != self.layout.colour.matrix:
            y += self._to_luma.draw(cb * matrix[0, 1] + cr * matrix[0, 2])
            cb, cr = cb * matrix[1, 1] + cr * matrix[1, 2], cb * matrix[2, 1] + cr * matrix[2, 2]
        result = Planes.empty(self.layout)
        black, luma, chroma = self.layout.colour.code_range(CONVERTED_DEPTH)
        middle = 2.0 ** (CONVERTED_DEPTH - 1)
        for working, target, origin, unit in zip(
            (y, cb, cr), result.arrays, (black, middle, middle), (luma, chroma, chroma), strict=True
        ):
            codes = working * np.float32(unit) + np.float32(origin)
            clip_codes(codes, CONVERTED_DEPTH)
            quantise(codes, target, CONVERTED_DEPTH)
        return result

    def _unit(self, planes: Planes, plane: int) -> Working:
        """Samples as Y' (0 to 1) or as Cb and Cr (-½ to ½)."""
        depth = self.source.depth
        black, luma, chroma = self.source.colour.code_range(depth)
        origin, unit = (2.0 ** (depth - 1), chroma) if plane else (black, luma)
        working: Working = planes.arrays[plane].astype(np.float32)
        working -= np.float32(origin)
        working /= np.float32(unit)
        return working
