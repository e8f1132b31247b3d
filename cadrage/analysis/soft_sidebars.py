"""Telling soft wings, such as a blurred copy beside an upright picture, from the sharp picture between them."""

import numpy as np
from numpy.typing import NDArray

SOFT = 0.4  # of the middle's detail that a wing may have
SHARP = 0.6  # of it that the picture has at once
STEP = 3.0  # how much the edge between them stands out from its neighbours
NARROWEST = 0.04  # of the whole
UNLIKE = 0.03  # by which the two wings may differ, of the whole
REACH = 6


def soft_sidebars(lumas: list[NDArray[np.uint8]]) -> tuple[int, int] | None:
    """Columns of soft wings left and right, or None where there are none."""
    detail, step = _profiles(lumas)
    columns = len(detail)
    usual = float(np.median(detail[columns // 3 : -(columns // 3)]))
    if usual <= 0:
        return None
    left = _wing(detail / usual, step)
    right = _wing(detail[::-1] / usual, step[::-1])
    if left is None or right is None or abs(left - right) > UNLIKE * columns:
        return None
    return left, right


def _profiles(lumas: list[NDArray[np.uint8]]) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """For each column: how much it differs from line to line, and how much it differs from the one before it."""
    detail, step = np.zeros((2, lumas[0].shape[1]))
    for luma in lumas:
        codes = luma.astype(np.int16)
        detail += np.abs(codes[2:] - codes[:-2]).mean(axis=0)
        step[1:] += np.abs(codes[:, 1:] - codes[:, :-1]).mean(axis=0)
    return detail / len(lumas), step / len(lumas)


def _wing(detail: NDArray[np.float64], step: NDArray[np.float64]) -> int | None:
    """Columns of a soft wing from the first column on: up to the one step that stands out, with detail after it."""
    narrowest, deepest = max(REACH, int(NARROWEST * len(detail))), int(0.48 * len(detail))
    soft = np.maximum.accumulate(detail[:deepest])
    candidates = np.arange(narrowest, deepest - REACH)
    if not candidates.size:
        return None
    around = np.array([np.median(step[at - REACH : at + REACH]) for at in candidates])
    stands = step[candidates] / np.maximum(around, 0.25)
    before, after = soft[candidates - 2], np.array([detail[at + 1 : at + REACH].mean() for at in candidates])
    good = (stands >= STEP) & (before <= SOFT) & (after >= np.maximum(SHARP, 2 * before))
    found = np.flatnonzero(good)
    return int(candidates[found[0]]) if found.size else None
