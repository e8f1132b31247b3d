"""Drawing the picture over its surround."""

import numpy as np
from numpy.typing import NDArray

from cadrage.geometry import FrameRect
from cadrage.pixels.kernels import sampling_kernel
from cadrage.pixels.mapping import Coverage, plane_axes
from cadrage.pixels.planes import Layout, Planes, Samples, Working
from cadrage.pixels.resample import TILE_COLUMNS, TILE_ROWS, Resampler, bands, limit, settle


class PicturePainter:
    """Draws planes of the picture at their exact place. Samples that it half covers are mixed with what is there.

    Args:
        source: the layout of the pictures.
        canvas: the layout of what is drawn on.
        planes: 0 for luma, or 1 and 2, which lie alike and are drawn together.
        rect: where the picture lies, in luma samples of the canvas.
        coverage: what it covers of these planes.
    """

    def __init__(
        self, source: Layout, canvas: Layout, planes: tuple[int, ...], rect: FrameRect, coverage: Coverage
    ) -> None:
        self.planes = planes
        self.area = coverage.touched
        self.depth = canvas.depth
        if self.area.empty:
            return
        down, across = plane_axes(source, canvas, planes[0], rect)
        rows, columns = source.shape(planes[0])
        drawn_rows, drawn_columns = range(self.area.top, self.area.bottom), range(self.area.left, self.area.right)
        self.resampler = Resampler(
            bands(down, drawn_rows, rows, sampling_kernel(float(down.step)), TILE_ROWS),
            bands(across, drawn_columns, columns, sampling_kernel(float(across.step)), TILE_COLUMNS),
            gain=2.0 ** (canvas.depth - source.depth),
            planes=len(planes),
        )
        self.rows = coverage.rows[self.area.top : self.area.bottom]
        self.columns = coverage.columns[self.area.left : self.area.right]
        self._part_columns = np.flatnonzero(self.columns < 1)

    def paint(self, picture: Planes, canvas: Planes) -> None:
        """Draw the picture on the canvas, where the surround is already painted."""
        if self.area.empty:
            return
        targets = [canvas.arrays[plane][self.area.slices] for plane in self.planes]
        for rows, drawn in self.resampler.blocks(*(picture.arrays[plane] for plane in self.planes)):
            for target, working in zip(targets, drawn, strict=True):
                self._mix_edges(working, target[rows], self.rows[rows])
                limit(working, self.depth)
                settle(working, target[rows], self.depth)

    def _mix_edges(self, drawn: Working, under: Samples, shares: NDArray[np.float32]) -> None:
        """Mix the samples of some rows that are only partly covered with what is under them."""
        for row in np.flatnonzero(shares < 1):
            share = shares[row] * self.columns
            drawn[row] = under[row] + share * (drawn[row] - under[row])
        whole = shares == 1
        for column in self._part_columns:
            share = self.columns[column]
            mixed = under[:, column] + share * (drawn[:, column] - under[:, column])
            drawn[whole, column] = mixed[whole]
