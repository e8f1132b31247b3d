"""Drawing the picture over its surround."""

from dataclasses import dataclass
from fractions import Fraction
from typing import Any

import numpy as np
from numpy.typing import NDArray

from cadrage.extend.request import SIDES, Side
from cadrage.finish.specification import Edge
from cadrage.geometry import FrameRect, Placed
from cadrage.pixels.kernels import sampling_kernel
from cadrage.pixels.mapping import Coverage, canvas_rect, plane_axes
from cadrage.pixels.planes import Crop, Layout, Planes, Samples, Working
from cadrage.pixels.resample import TILE_COLUMNS, TILE_ROWS, Resampler, clip_codes, quantise, resampling_weights
from cadrage.plan import Plan

Overlap = tuple[frozenset[Side], float]
"""Sides whose edges fade into what goes on beyond them; how far in, in parts of the picture's height."""
NO_OVERLAP: Overlap = (frozenset(), 0.0)


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
        fades: how far in from the left, right, top and bottom the picture fades into what goes on beyond it.
    """

    placed: Placed
    source: Layout
    canvas: Layout
    held: FrameRect
    picture: FrameRect
    drawn: FrameRect
    edge: Edge
    fades: tuple[float, float, float, float] = (0.0, 0.0, 0.0, 0.0)

    @classmethod
    def of(
        cls, placed: Placed, cut: Crop, source: Layout, canvas: Layout, plan: Plan, overlap: Overlap = NO_OVERLAP
    ) -> "PictureTarget":
        """Everything brought to the canvas."""
        size = (plan.frame.width, plan.frame.height)
        held = canvas_rect(placed.spread(placed.rect, cut.rect), size, canvas)
        picture = canvas_rect(placed.rect, size, canvas)
        drawn = canvas_rect(plan.frame.drawn_rect, size, canvas)
        edge, (sides, part) = plan.finish.edge, overlap
        if placed.angle or edge.shapes:  # both are one edge then
            soft: dict[str, Any] = {side: max(getattr(edge, side), Fraction(round(1000 * part), 10)) for side in sides}
            return cls(placed, source, canvas, held, picture, drawn, edge.model_copy(update=soft))
        square = float(picture.width / picture.height / (placed.rect.width / placed.rect.height))
        across = part * float(picture.height) * square
        lengths = (across, across, part * float(picture.height), part * float(picture.height))
        left, right, top, bottom = (
            length if side in sides else 0.0 for side, length in zip(SIDES, lengths, strict=True)
        )
        return cls(placed, source, canvas, held, picture, drawn, edge, (left, right, top, bottom))


class PicturePainter:
    """Draws planes of the picture at their exact place. Samples that it half covers are mixed with what is there.

    Args:
        sheet: where it is drawn.
        planes: 0 for luma, or 1 and 2, which lie alike and are drawn together.
    """

    def __init__(self, sheet: PictureTarget, planes: tuple[int, ...]) -> None:
        self.planes = planes
        source, canvas = sheet.source, sheet.canvas
        coverage = _faded(Coverage.of(canvas, planes[0], sheet.picture.clipped(sheet.drawn)), sheet, planes[0])
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
        self._part_columns = _runs(np.flatnonzero(self.columns < 1))

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
        for run in self._part_columns:
            mixed = under[:, run] + self.columns[run] * (drawn[:, run] - under[:, run])
            np.copyto(drawn[:, run], mixed, where=whole[:, None])


def _runs(places: NDArray[np.intp]) -> list[slice]:
    """Places in a row as slices."""
    parts = np.split(places, np.flatnonzero(np.diff(places) > 1) + 1) if len(places) else []
    return [slice(int(part[0]), int(part[-1]) + 1) for part in parts]


def _faded(coverage: Coverage, sheet: PictureTarget, plane: int) -> Coverage:
    """Coverage that grows from nothing at the picture's edges, where they fade."""
    if not any(sheet.fades):
        return coverage
    by, rect = sheet.canvas.subsampling(plane), sheet.picture
    x = (np.arange(len(coverage.columns)) + 0.5) * by.across + float(by.shift_x)
    y = (np.arange(len(coverage.rows)) + 0.5) * by.down + float(by.shift_y)
    left, right, top, bottom = sheet.fades
    columns = _ramp(x - float(rect.x), left) * _ramp(float(rect.right) - x, right)
    rows = _ramp(y - float(rect.y), top) * _ramp(float(rect.bottom) - y, bottom)
    return Coverage((coverage.rows * rows).astype(np.float32), (coverage.columns * columns).astype(np.float32))


def _ramp(inside: NDArray[np.floating], length: float) -> NDArray[np.floating]:
    """From 0 at an edge to 1 at a length inside it, without a corner at either end."""
    if not length:
        return np.ones_like(inside)
    part = np.clip(inside / length, 0, 1)
    return np.asarray(part * part * (3 - 2 * part))
