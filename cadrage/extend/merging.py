"""Many pictures of one scene merged into one by the median, which leaves out who only passes."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from cadrage.extend.camera import Matrix, for_opencv
from cadrage.pixels.planes import Working

Stored = NDArray[np.uint16]
UNIT = 256
"""Of what is stored, for one code of 8 bits."""
NOTHING = 65535
MERGED_BYTES = 384 * 2**20
MOST_PICTURES = 33
FEWEST_PICTURES = 7
STRIP = 128
TAILS = (0.12, 0.88)
"""Of the pictures of a place, in the order of their lightness: these two differ where something moves."""
RESTLESS = 10.0
MOST_RESTLESS = 0.4
FEWEST_TOLD = 5
BLACK = 16.0
MIDDLE = 128.0
Report = Callable[[float], None]


@dataclass(frozen=True, slots=True)
class Observation:
    """A picture to merge.

    Attributes:
        picture: (rows, columns, 3), codes of 8 bits times `UNIT`.
        matrix: from its pixels to those of what is merged.
        gain: what its codes above black are divided by, to be as light as the rest.
    """

    picture: Stored
    matrix: Matrix
    gain: float


@dataclass(frozen=True, slots=True)
class Grain:
    """Noise of a clip's pictures.

    Attributes:
        sigma: standard deviation of luma, in codes of 8 bits.
        size: standard deviation of the blur that white noise must have to look like it, in pixels.
    """

    sigma: float
    size: float


NO_GRAIN = Grain(0.0, 0.0)


@dataclass(frozen=True, slots=True)
class Merged:
    """Pictures merged.

    Attributes:
        picture: codes of 8 bits with fractions, (rows, columns, 3).
        seen: in how many pictures each place was.
        restless: where pictures differ, since something moves there.
        grain: noise of one picture.
    """

    picture: Working
    seen: NDArray[np.uint8]
    restless: NDArray[np.bool_]
    grain: Grain


def stored(picture: Working) -> Stored:
    """A picture as it is kept to be merged."""
    return np.asarray(np.clip(picture * UNIT + 0.5, 0, NOTHING - 1), np.uint16)


def pictures_within(width: int, height: int) -> int:
    """How many pictures of a size are merged: an odd number, as memory allows."""
    count = MERGED_BYTES // (width * height * 6)
    return int(min(max(count, FEWEST_PICTURES), MOST_PICTURES)) - 1 | 1


def merged(seen: Sequence[Observation], width: int, height: int, report: Report) -> Merged:
    """The median of pictures.

    Args:
        seen: the pictures.
        width: of what is merged.
        height: of the same.
        report: told the fraction that is done.
    """
    made = np.zeros((height, width, 3), np.float32)
    counts = np.zeros((height, width), np.uint8)
    spread = np.zeros((height, width), np.float32)
    noise: list[tuple[float, float]] = []
    for left in range(0, width, STRIP):
        right = min(width, left + STRIP)
        lying = [one for one in seen if _reaches(one, left, right)]
        if lying:
            part = (slice(None), slice(left, right))
            made[part], counts[part], spread[part], found = _strip(lying, left, right, height)
            noise += found
        report(right / width)
    sigma, size = np.median(np.array(noise), axis=0) if noise else (0.0, 0.0)
    grain = Grain(round(float(sigma), 3), round(float(size), 3))
    return Merged(made, counts, _restless(spread, made[..., 0], grain), grain)


def _restless(spread: Working, luma: Working, grain: Grain) -> NDArray[np.bool_]:
    """Where something moves: where pictures differ more than by noise, and what lies inside such a place."""
    slope = np.abs(cv2.Sobel(luma, cv2.CV_32F, 1, 0)) + np.abs(cv2.Sobel(luma, cv2.CV_32F, 0, 1))
    moving = (spread > RESTLESS + 4 * grain.sigma + slope / 8).astype(np.uint8)
    size = max(3, len(luma) // 150) | 1
    opened = cv2.morphologyEx(moving, cv2.MORPH_OPEN, np.ones((3, 3), np.uint8))
    grown = cv2.dilate(opened, np.ones((size, size), np.uint8), iterations=2)
    outlines, _ = cv2.findContours(grown, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    filled = np.zeros_like(grown)
    cv2.drawContours(filled, outlines, -1, 1, -1)
    share = float(filled.mean())
    return np.asarray(filled > 0) if share < MOST_RESTLESS else np.asarray(opened > 0)


def _reaches(one: Observation, left: int, right: int) -> bool:
    rows, columns = one.picture.shape[:2]
    corners = np.array([[0, 0, 1], [columns, 0, 1], [0, rows, 1], [columns, rows, 1]], np.float64) @ one.matrix.T
    return bool(corners[:, 0].min() < right and corners[:, 0].max() > left)


def _strip(
    lying: Sequence[Observation], left: int, right: int, height: int
) -> tuple[Working, NDArray[np.uint8], Working, list[tuple[float, float]]]:
    laid = np.empty((height, right - left, 3, len(lying)), np.uint16)
    for number, one in enumerate(lying):
        laid[..., number] = _laid(one, left, right, height)
    counts = (laid[:, :, 0] != NOTHING).sum(axis=-1)
    ordered = np.sort(laid, axis=-1)
    middle = np.maximum(counts - 1, 0)[..., None, None]
    at_low, at_high = (
        np.broadcast_to(middle // 2, (*counts.shape, 3, 1)),
        np.broadcast_to((middle + 1) // 2, (*counts.shape, 3, 1)),
    )
    low, high = (np.take_along_axis(ordered, at, axis=-1)[..., 0].astype(np.float32) for at in (at_low, at_high))
    made = (low + high) / np.float32(2 * UNIT)
    made[counts == 0] = 0
    tail = np.broadcast_to(np.maximum(counts - 1, 0)[..., None, None], (*counts.shape, 3, 1))
    ends = [np.take_along_axis(ordered, (tail * part).astype(np.int64), axis=-1)[..., 0] for part in TAILS]
    spread = np.asarray((ends[1].astype(np.float32) - ends[0]).max(axis=-1) / np.float32(UNIT), np.float32)
    spread[counts < FEWEST_TOLD] = 0
    return made, np.minimum(counts, 255).astype(np.uint8), spread, _noise(laid[:, :, 0], made[..., 0], counts)


def _laid(one: Observation, left: int, right: int, height: int) -> Stored:
    """A picture where it lies in a strip, as light as the rest; `NOTHING` where it is not."""
    rows, columns = one.picture.shape[:2]
    matrix = one.matrix.copy()
    matrix[0, 2] -= left
    whole = np.allclose(matrix[:, :2], np.eye(2), atol=1e-9) and np.allclose(matrix[:, 2], np.rint(matrix[:, 2]))
    if whole and matrix[1, 2] == 0 and rows == height and -matrix[0, 2] >= 0 and right - left - matrix[0, 2] <= columns:
        start = round(-matrix[0, 2])
        drawn = np.asarray(one.picture[:, start : start + right - left], np.float32)
        inside = np.ones(drawn.shape[:2], bool)
    else:
        size = (right - left, height)
        how = cv2.INTER_LANCZOS4
        warped = cv2.warpAffine(one.picture, for_opencv(matrix), size, flags=how, borderMode=cv2.BORDER_REPLICATE)
        drawn = np.asarray(warped, np.float32)
        inside = _inside(matrix, size, columns, rows)
    if one.gain != 1:
        drawn[..., 0] = (drawn[..., 0] - BLACK * UNIT) / one.gain + BLACK * UNIT
        drawn[..., 1:] = (drawn[..., 1:] - MIDDLE * UNIT) / one.gain + MIDDLE * UNIT
    made = np.clip(drawn, 0, NOTHING - 1).astype(np.uint16)
    made[~inside] = NOTHING
    return made


def _inside(matrix: Matrix, size: tuple[int, int], columns: int, rows: int) -> NDArray[np.bool_]:
    """Which pixels of a strip a picture covers, less one at its edges."""
    inverse = cv2.invertAffineTransform(matrix)
    x, y = np.arange(size[0]) + 0.5, (np.arange(size[1]) + 0.5)[:, None]
    across = inverse[0, 0] * x + inverse[0, 1] * y + inverse[0, 2]
    down = inverse[1, 0] * x + inverse[1, 1] * y + inverse[1, 2]
    inside: NDArray[np.bool_] = (across >= 1) & (across <= columns - 1) & (down >= 1) & (down <= rows - 1)
    return inside


def _noise(luma: Stored, median: Working, counts: NDArray[np.int64]) -> list[tuple[float, float]]:
    """Noise of single pictures against their median where all were seen: its deviation and its size."""
    if luma.shape[-1] < 3 or counts.min() < luma.shape[-1]:
        return []
    apart = luma[..., luma.shape[-1] // 3].astype(np.float32) / UNIT - median
    sigma = 1.4826 * float(np.median(np.abs(apart)))
    if sigma < 0.05:
        return [(sigma, 0.0)]
    still = np.abs(apart) < 3 * sigma
    beside = still[:, 1:] & still[:, :-1]
    alike = float((apart[:, 1:] * apart[:, :-1])[beside].mean() / max(float((apart[still] ** 2).mean()), 1e-6))
    alike = min(max(alike, 0.0), 0.95)
    # Of white noise blurred with sigma s, neighbours are alike as exp(-1 / (4 s²)).
    return [(sigma, 0.0 if alike < 0.05 else float(np.sqrt(-1 / (4 * np.log(alike)))))]
