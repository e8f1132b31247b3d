"""Drawing a picture that is turned by any angle, or whose edge is soft or rounded, over its surround.

The picture is first drawn straight, at its exact size and place, then turned about its centre at a scale of one. So
enlarging and reducing are done by the same kernels as for a picture that is not turned.
"""

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from cadrage.compose.picture import PictureTarget
from cadrage.finish.shape import Outline
from cadrage.pixels.kernels import sampling_kernel
from cadrage.pixels.mapping import Area, Coverage, plane_axes
from cadrage.pixels.planes import Planes, Working
from cadrage.pixels.resample import TILE_COLUMNS, TILE_ROWS, Resampler, clip_codes, quantise, resampling_weights

REACH = 4  # samples on each side that turning reads, of an 8-tap Lanczos kernel

Matrix = NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class _Turning:
    """From a canvas plane to the same plane with the picture straight; positions in samples, as `Axis` has them.

    Attributes:
        back: the 2×3 matrix that takes a position to the one it has come from.
        middle: the picture's centre, in samples.
        half: half the picture's sides, in samples.
    """

    back: Matrix
    middle: NDArray[np.float64]
    half: NDArray[np.float64]

    @classmethod
    def of(cls, sheet: PictureTarget, plane: int) -> "_Turning":
        placed, canvas, by = sheet.placed, sheet.canvas, sheet.canvas.subsampling(plane)
        frame = placed.frame
        # A sample's sides in frame lines, with the true shape of the frame's pixels.
        sides = np.array(
            [
                float(frame.pixel_aspect * frame.width / canvas.width * by.across),
                float(frame.height / canvas.height * by.down),
            ]
        )
        step, shift = np.array([by.across, by.down], float), np.array([by.shift_x, by.shift_y], float)
        rect = sheet.picture
        corner = np.array([rect.x, rect.y], float)
        half = np.array([rect.width, rect.height], float) / 2 / step
        middle = (corner - shift) / step + half
        cos, sin = float(placed.turn.cos), float(placed.turn.sin)
        turn = np.array([[cos, sin], [-sin, cos]]) * sides[None, :] / sides[:, None]
        return cls(np.column_stack([turn, middle - turn @ middle]), middle, half)

    def box(self, corners: Matrix, *, forward: bool) -> tuple[int, int, int, int]:
        """Whole samples around a quadrangle taken through the turn or back: left, top, right, bottom."""
        matrix = cv2.invertAffineTransform(self.back) if forward else self.back
        moved = corners @ matrix[:, :2].T + matrix[:, 2]
        low, high = np.floor(moved.min(axis=0)).astype(int), np.ceil(moved.max(axis=0)).astype(int)
        return int(low[0]), int(low[1]), int(high[0]), int(high[1])


def _corners(left: float, top: float, right: float, bottom: float) -> Matrix:
    return np.array([[left, top], [right, top], [right, bottom], [left, bottom]], float)


NOWHERE = Area(0, 0, 0, 0)


class TurnedPainter:
    """Draws planes of a picture that covers samples in any way. Those that it half covers are mixed.

    Args:
        sheet: where it is drawn.
        planes: 0 for luma, or 1 and 2, which lie alike.
    """

    def __init__(self, sheet: PictureTarget, planes: tuple[int, ...]) -> None:
        self.planes, self.depth = planes, sheet.canvas.depth
        turning = _Turning.of(sheet, planes[0])
        rows, columns = sheet.canvas.shape(planes[0])
        self.area = self._touched(turning, rows, columns)
        self.uncovered: tuple[Area, ...] = (Area(0, rows, 0, columns),)
        if self.area.empty:
            return
        self.shares = _shares(sheet, planes[0], self.area) * _of_active(sheet, planes[0], self.area)
        if not self.shares.any():  # the box around a turned picture reaches farther than it does
            self.area = NOWHERE
            return
        if (self.shares == 1).all() and self.area == self.uncovered[0]:
            self.uncovered = ()
        self._covered = self.shares == 1
        self._prepare(sheet, turning)

    def _touched(self, turning: _Turning, rows: int, columns: int) -> Area:
        """The samples of the plane around the turned picture."""
        outline = _corners(*(turning.middle - turning.half), *(turning.middle + turning.half))
        left, top, right, bottom = turning.box(outline, forward=True)
        return Area(max(0, top - 1), min(rows, bottom + 1), max(0, left - 1), min(columns, right + 1))

    def _prepare(self, sheet: PictureTarget, turning: _Turning) -> None:
        """What is drawn straight: all that the area turned back can reach, and no more of the picture's outside."""
        area, source, canvas = self.area, sheet.source, sheet.canvas
        around = turning.box(_corners(area.left, area.top, area.right, area.bottom), forward=False)
        low = np.floor(turning.middle - turning.half).astype(int)
        high = np.ceil(turning.middle + turning.half).astype(int)
        left, top = max(around[0], low[0]) - REACH, max(around[1], low[1]) - REACH
        right, bottom = min(around[2], high[0]) + REACH, min(around[3], high[1]) + REACH
        straight = not sheet.placed.angle
        if straight:  # what is drawn is the area itself
            left, top, right, bottom = area.left, area.top, area.right, area.bottom
        down, across = plane_axes(source, canvas, self.planes[0], sheet.held)
        rows, columns = source.shape(self.planes[0])
        self.resampler = Resampler(
            resampling_weights(down, range(top, bottom), rows, sampling_kernel(float(down.step)), TILE_ROWS),
            resampling_weights(across, range(left, right), columns, sampling_kernel(float(across.step)), TILE_COLUMNS),
            gain=2.0 ** (canvas.depth - source.depth),
        )
        # OpenCV counts from the centre of the first sample of each image, these positions from the plane's corner.
        matrix = turning.back.copy()
        first = np.array([area.left + 0.5, area.top + 0.5])
        matrix[:, 2] += matrix[:, :2] @ first - np.array([left + 0.5, top + 0.5])
        self.matrix = None if straight else matrix

    def paint(self, picture: Planes, canvas: Planes) -> None:
        """Draw the picture on the canvas, where the surround is already painted."""
        if self.area.empty:
            return
        size = self.shares.shape[::-1]
        how = cv2.INTER_LANCZOS4 | cv2.WARP_INVERSE_MAP
        for plane in self.planes:
            turned = self.resampler.draw(picture.arrays[plane])
            if self.matrix is not None:
                warped = cv2.warpAffine(turned, self.matrix, size, flags=how, borderMode=cv2.BORDER_REPLICATE)
                turned = np.asarray(warped, np.float32)
            clip_codes(turned, self.depth)
            under = canvas.arrays[plane][self.area.slices]
            mixed: Working = under.astype(np.float32)
            mixed += self.shares * (turned - mixed)
            np.copyto(mixed, turned, where=self._covered)  # there nothing of what is under it may be left, not a bit
            quantise(mixed, under, self.depth)


def _shares(sheet: PictureTarget, plane: int, area: Area) -> Working:
    """How much of each sample of an area the picture covers: its corners rounded, its sides softened inward."""
    outline = Outline.of(sheet.placed, sheet.placed.rect, sheet.canvas, plane)
    height = float(sheet.placed.rect.height)
    edge = sheet.edge
    shares = outline.covered(area, float(edge.corners) / 100 * height)
    across, down = outline.straight(area)
    for soft, inside in (
        (edge.left, across + outline.half[0]),
        (edge.right, outline.half[0] - across),
        (edge.top, down + outline.half[1]),
        (edge.bottom, outline.half[1] - down),
    ):
        if soft:
            shares *= np.clip(inside / (float(soft) / 100 * height), 0, 1).astype(np.float32)
    return shares


def _of_active(sheet: PictureTarget, plane: int, area: Area) -> Working:
    """How much of each sample of an area lies in the active picture."""
    coverage = Coverage.of(sheet.canvas, plane, sheet.drawn)
    shares: Working = np.outer(coverage.rows[area.top : area.bottom], coverage.columns[area.left : area.right])
    return shares
