"""Drawing the picture over its surround."""

import numpy as np

from cadrage.geometry import FrameRect
from cadrage.pixels.kernels import sampling_kernel
from cadrage.pixels.mapping import Coverage, plane_axes
from cadrage.pixels.planes import Layout, Samples, Working
from cadrage.pixels.resample import TILE_COLUMNS, TILE_ROWS, Resampler, bands, settle


class PicturePainter:
    """Draws one plane of the picture at its exact place. Samples that it half covers are mixed with what is there."""

    def __init__(self, source: Layout, canvas: Layout, plane: int, rect: FrameRect, coverage: Coverage) -> None:
        self.area = coverage.touched
        self.depth = canvas.depth
        if self.area.empty:
            return
        down, across = plane_axes(source, canvas, plane, rect)
        rows, columns = source.shape(plane)
        drawn_rows, drawn_columns = range(self.area.top, self.area.bottom), range(self.area.left, self.area.right)
        self.resampler = Resampler(
            bands(down, drawn_rows, rows, sampling_kernel(float(down.step)), TILE_ROWS),
            bands(across, drawn_columns, columns, sampling_kernel(float(across.step)), TILE_COLUMNS),
            gain=2.0 ** (canvas.depth - source.depth),
        )
        self.rows = coverage.rows[self.area.top : self.area.bottom]
        self.columns = coverage.columns[self.area.left : self.area.right]
        self._part_rows = np.flatnonzero(self.rows < 1)
        self._part_columns = np.flatnonzero(self.columns < 1)

    def paint(self, plane: Samples, canvas: Samples) -> None:
        """Draw a plane of the picture on a plane of the canvas, where the surround is already painted."""
        if self.area.empty:
            return
        drawn = self.resampler.draw(plane)
        target = canvas[self.area.slices]
        self._mix_edges(drawn, target)
        settle(drawn, target, self.depth)

    def _mix_edges(self, drawn: Working, under: Samples) -> None:
        for row in self._part_rows:
            share = self.rows[row] * self.columns
            drawn[row] = under[row] + share * (drawn[row] - under[row])
        whole = self.rows == 1
        for column in self._part_columns:
            share = self.columns[column]
            mixed = under[:, column] + share * (drawn[:, column] - under[:, column])
            drawn[whole, column] = mixed[whole]
