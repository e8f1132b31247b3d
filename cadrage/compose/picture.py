"""Drawing the picture over its surround."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from cadrage.finish.specification import Edge
from cadrage.geometry import FrameRect, Placed
from cadrage.pixels.kernels import sampling_kernel
from cadrage.pixels.mapping import Coverage, canvas_rect, plane_axes
from cadrage.pixels.planes import Crop, Layout, Planes, Samples, Working
from cadrage.pixels.resample import TILE_COLUMNS, TILE_ROWS, Resampler, clip_codes, quantise, resampling_weights
from cadrage.plan import Plan


@dataclass(frozen=True, slots=True)
class PictureTarget:
    """Where a picture is to be drawn; lengths in luma samples of the canvas.

    Attributes:
        placed: the picture in its frame.
        source: the layout of the samples that are drawn.
        canvas: the layout of what is drawn on.
        held: where all those samples lie; at most a sample larger each way than the picture.
        picture: where the picture's own edges lie, which need not fall on samples.
        drawn: the active picture; nothing is drawn outside it.
        edge: how the picture's own edge is finished.
    """

    placed: Placed
    source: Layout
    canvas: Layout
    held: FrameRect
    picture: FrameRect
    drawn: FrameRect
    edge: Edge

    @classmethod
    def of(cls, placed: Placed, cut: Crop, source: Layout, canvas: Layout, plan: Plan) -> "PictureTarget":
        """Everything brought to the canvas."""
        size = (plan.frame.width, plan.frame.height)
        held = canvas_rect(placed.spread(placed.rect, cut.rect), size, canvas)
        picture = canvas_rect(placed.rect, size, canvas)
        return cls(
            placed, source, canvas, held, picture, canvas_rect(plan.frame.drawn_rect, size, canvas), plan.finish.edge
        )


class PicturePainter:
    """Draws planes of the picture at their exact place. Samples that it half covers are mixed with what is there.

    Args:
        sheet: where it is drawn.
        planes: 0 for luma, or 1 and 2, which lie alike and are drawn together.
    """

    def __init__(self, sheet: PictureTarget, planes: tuple[int, ...]) -> None:
        self.planes = planes
        source, canvas = sheet.source, sheet.canvas
        coverage = Coverage.of(canvas, planes[0], sheet.picture.clipped(sheet.drawn))
        self.uncovered = coverage.uncovered
        self.area = coverage.touched
        self.depth = canvas.depth
        if self.area.empty:
            return
        down, across = plane_axes(source, canvas, planes[0], sheet.held)
        rows, columns = source.shape(planes[0])
        drawn_rows, drawn_columns = range(self.area.top, self.area.bottom), range(self.area.left, self.area.right)
        self.resampler = Resampler(
            resampling_weights(down, drawn_rows, rows, sampling_kernel(float(down.step)), TILE_ROWS),
            resampling_weights(across, drawn_columns, columns, sampling_kernel(float(across.step)), TILE_COLUMNS),
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
                clip_codes(working, self.depth)
                quantise(working, target[rows], self.depth)

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
