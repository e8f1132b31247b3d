"""Sampling planes of a plate anywhere, to a part of a sample: the plainest way that is right for how they lie."""

from fractions import Fraction

import cv2
import numpy as np
from numpy.typing import NDArray

from cadrage.extend.camera import for_opencv, then
from cadrage.pixels.kernels import lanczos, sampling_kernel
from cadrage.pixels.planes import Samples, Working
from cadrage.pixels.resample import TILE_COLUMNS, TILE_ROWS, Axis, Resampler, resampling_weights

Matrix = NDArray[np.float64]
Size = tuple[int, int]
TAPS = 6
ASTRAY = 0.02
"""Samples: what lies so little turned or scaled over a whole area that it is as well not turned or scaled."""
LEAST_STEP = 0.5
"""Samples of a plate for one drawn: one that is enlarged further is not kept so large."""


class PlateSampling:
    """Samples planes of one size.

    Args:
        planes: (rows, columns) each.
        gain: what every sample is multiplied with.
        there: (rows, columns), which samples there are.
    """

    def __init__(self, planes: tuple[Samples, ...], gain: float, there: NDArray[np.bool_]) -> None:
        self.planes, self.gain = planes, np.float32(gain)
        self._there = there.astype(np.uint8)
        self._whole = bool(there.all())
        self._scaled: dict[tuple[int, float, float], Working] = {}

    def once(self, plane: int, matrix: Matrix, size: Size) -> Working:
        """A part of a plane that is used for many pictures, as well as can be.

        Args:
            plane: its number.
            matrix: from places on what is drawn to places on the plane, both measured from their corners.
            size: columns and rows to draw.
        """
        source = self.planes[plane]
        if not _is_upright(matrix, size):
            return _warped(source.astype(np.float32) * self.gain, matrix, size, cv2.INTER_LANCZOS4)
        across, down = (Axis(Fraction(matrix[axis, 2]), Fraction(matrix[axis, axis])) for axis in (0, 1))
        rows, columns = source.shape
        kernels = sampling_kernel(float(down.step)), sampling_kernel(float(across.step))
        return Resampler(
            resampling_weights(down, range(size[1]), rows, kernels[0], TILE_ROWS),
            resampling_weights(across, range(size[0]), columns, kernels[1], TILE_COLUMNS),
            gain=float(self.gain),
        ).draw(source)

    def often(self, plane: int, matrix: Matrix, size: Size, steps: tuple[float, float]) -> Working:
        """The same for one picture of many that lie a little elsewhere, quickly.

        Args:
            plane: as for `once`.
            matrix: as for `once`.
            size: as for `once`.
            steps: samples of the plane for one drawn, across and down, in about all the pictures.
        """
        steps = self._kept(steps[0]), self._kept(steps[1])
        source = self._at(plane, *steps)
        near = then(matrix, np.array([[1 / steps[0], 0, 0], [0, 1 / steps[1], 0]]))
        if not _is_upright(near - [[1, 0, 0], [0, 1, 0]], size, scaled=False):
            return _warped(source, near, size, cv2.INTER_CUBIC)
        middle = np.array([size[0] / 2, size[1] / 2])
        return _shifted(source, near[:, :2] @ middle + near[:, 2] - middle, size)

    def covered(self, matrix: Matrix, size: Size) -> NDArray[np.bool_] | None:
        """The samples that the plane reaches; None for all."""
        rows, columns = self._there.shape
        corners = np.array([[0, 0, 1], [size[0], 0, 1], [0, size[1], 1], [size[0], size[1], 1]], np.float64) @ matrix.T
        edge = 0.51 * max(1.0, float(np.abs(matrix[:, :2]).max()))
        inside = (corners >= -edge).all() and (corners <= [columns + edge, rows + edge]).all()
        if self._whole and inside:
            return None
        flags = cv2.INTER_NEAREST | cv2.WARP_INVERSE_MAP
        drawn = cv2.warpAffine(self._there, for_opencv(matrix), size, flags=flags, borderValue=0)
        return np.asarray(drawn > 0)

    def _kept(self, step: float) -> float:
        """The factor by which a plane is reduced before drawing from it."""
        return step if step >= LEAST_STEP else 1.0

    def _at(self, plane: int, across: float, down: float) -> Working:
        """A plane so many times smaller, filtered for it."""
        key = (plane, across, down)
        if key not in self._scaled:
            rows, columns = self.planes[plane].shape
            size = max(1, round(columns / across)), max(1, round(rows / down))
            self._scaled[key] = self.once(plane, np.array([[across, 0, 0], [0, down, 0]]), size)
        return self._scaled[key]


def _is_upright(matrix: Matrix, size: Size, *, scaled: bool = True) -> bool:
    """Whether nothing is turned that far over an area that it could be seen; nor scaled, where that counts as well."""
    linear = np.abs(matrix[:, :2]) * [size[0] / 2, size[1] / 2]
    astray = linear * [[not scaled, True], [True, not scaled]]
    return bool((astray < ASTRAY).all())


def _shifted(source: Working, by: NDArray[np.float64], size: Size) -> Working:
    """An area of a plane that begins so far from its corner; beyond the plane its edges go on."""
    first = np.floor(by)
    before = TAPS // 2 - 1
    high, wide = size[1] + TAPS - 1, size[0] + TAPS - 1
    rows, columns = source.shape
    # What lies wholly beyond is all edge: there one sample of it does.
    left = int(np.clip(first[0] - before, 1 - wide, columns - 1))
    top = int(np.clip(first[1] - before, 1 - high, rows - 1))
    part = source[max(top, 0) : top + high, max(left, 0) : left + wide]
    if part.shape != (high, wide):
        over = max(0, -top), max(0, top + high - rows), max(0, -left), max(0, left + wide - columns)
        part = np.asarray(cv2.copyMakeBorder(part, *over, cv2.BORDER_REPLICATE), np.float32)
    across, down = (_taps(float(share)) for share in by - first)
    drawn = cv2.sepFilter2D(part, cv2.CV_32F, across, down, anchor=(before, before))
    return np.asarray(drawn[before : before + size[1], before : before + size[0]], np.float32)


def _taps(share: float) -> Working:
    """What samples count for one that lies a share of the way between the middle two."""
    weights = lanczos(np.arange(TAPS) - (TAPS // 2 - 1) - share)
    return np.asarray(weights / weights.sum(), np.float32)


def _warped(source: Working, matrix: Matrix, size: Size, kernel: int) -> Working:
    """An area of a plane; beyond the plane its edges go on."""
    flags = kernel | cv2.WARP_INVERSE_MAP
    drawn = cv2.warpAffine(source, for_opencv(matrix), size, flags=flags, borderMode=cv2.BORDER_REPLICATE)
    return np.asarray(drawn, np.float32)
