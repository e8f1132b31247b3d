"""The bars outside the active picture."""

import numpy as np
from numpy.typing import NDArray

from cadrage.geometry import FrameRect
from cadrage.pixels.light import codes_of
from cadrage.pixels.mapping import Coverage
from cadrage.pixels.planes import Layout, Planes, Samples


class BarsPainter:
    """Paints all outside a rectangle in one colour; samples that it half covers are mixed.

    Args:
        canvas: the layout of what is painted on.
        inside: the active picture, in luma samples of the canvas.
        colour: R'G'B' as # and six hexadecimal digits.
    """

    def __init__(self, canvas: Layout, inside: FrameRect, colour: str) -> None:
        self.codes = codes_of(colour, canvas.colour, canvas.depth)
        self.shares = [Coverage.of(canvas, plane, inside) for plane in range(3)]

    def paint(self, canvas: Planes) -> None:
        """Paint over what is there."""
        for plane, share, code in zip(canvas.arrays, self.shares, self.codes, strict=True):
            _cover(plane, share.rows, code)
            _cover(plane.T, share.columns, code)


def _cover(lines: Samples, shares: NDArray[np.float32], code: float) -> None:
    """Let a code show through lines, as much as is not covered."""
    lines[shares == 0] = round(code)
    for line in np.flatnonzero((shares > 0) & (shares < 1)):
        mixed = code + shares[line] * (lines[line].astype(np.float32) - code)
        lines[line] = np.rint(mixed)
