"""How much lighter or darker one picture of a shot is than another."""

import cv2
import numpy as np
from numpy.typing import NDArray

from cadrage.extend.camera import Grey, Matrix, for_opencv, scaled

COLUMNS = 96
DARKEST, LIGHTEST = 24, 235
"""Codes of 8 bits, beyond which a sample says nothing of the light."""
BLACK = 16.0
MOST = 1.6


def gain_between(before: Grey, now: Grey, matrix: Matrix) -> float:
    """What the codes above black of a picture are multiplied with to be those of another.

    Args:
        before: the first.
        now: the second, of its size.
        matrix: where a point of the first lies in the second.
    """
    rows, columns = before.shape
    factor = min(1.0, COLUMNS / columns)
    size = max(4, round(columns * factor)), max(4, round(rows * factor))
    one, other = (cv2.resize(grey, size, interpolation=cv2.INTER_AREA).astype(np.float32) for grey in (before, now))
    small = scaled(matrix, size[0] / columns, size[1] / rows)
    brought = cv2.warpAffine(one, for_opencv(small), size, flags=cv2.INTER_LINEAR, borderValue=-1)
    told = (brought > DARKEST) & (brought < LIGHTEST) & (other > DARKEST) & (other < LIGHTEST)
    if told.sum() < 20:
        return 1.0
    return ratio_of(brought[told] - BLACK, other[told] - BLACK)


def ratio_of(before: NDArray[np.floating], now: NDArray[np.floating]) -> float:
    """The ratio that most of some values have; what moved there does not count."""
    found = float(np.median(now / before))
    return min(max(found, 1 / MOST), MOST)
