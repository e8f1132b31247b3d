"""What happens at a picture's edges while the camera stands: who crosses them, and in which pictures."""

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from cadrage.extend.request import SIDES, Side

Grey = NDArray[np.uint8]
Band = NDArray[np.uint8]
BAND, LINE = 0.08, 0.02
"""Of the picture's shorter side: how deep the band at an edge is, and the edge itself in it."""
LEAST_APART = 10.0
"""Codes of 8 bits: what differs less is noise."""
DEVIATIONS = 5.0
GAIN_SLACK = 0.8
"""Of a change of light: how much of it an edge may still show, since light does not change alike everywhere."""
MOST_GAIN = 1.6
BLACK = 16.0
ORIGIN = np.array([BLACK, 128, 128], np.float32)
"""What light multiplies codes from."""


@dataclass(frozen=True, slots=True)
class Touched:
    """What differs at the edges of one picture from what usually is there, by side in the order of `SIDES`.

    Attributes:
        edges: share of each edge itself.
        bands: share of each band.
    """

    edges: tuple[float, float, float, float]
    bands: tuple[float, float, float, float]


def bands_of(picture: Grey) -> tuple[Band, ...]:
    """The bands at a picture's edges, each with its edge on top: left, right, top, bottom.

    Args:
        picture: Y′CbCr codes of 8 bits, (rows, columns, 3).
    """
    deep = max(6, round(BAND * min(picture.shape[:2])))
    upright = picture.swapaxes(0, 1)
    parts = (upright[:deep], upright[: -deep - 1 : -1], picture[:deep], picture[: -deep - 1 : -1])
    return tuple(np.ascontiguousarray(part) for part in parts)


@dataclass(frozen=True, slots=True)
class Usual:
    """What usually is at one edge.

    Attributes:
        median: over time, (deep, along, 3).
        slack: what may differ from it without anybody being there.
    """

    median: NDArray[np.float32]
    slack: NDArray[np.float32]

    @classmethod
    def of(cls, bands: list[Band]) -> "Usual":
        """Of the same band in many pictures, all of them alike light."""
        stack = np.stack(bands).astype(np.float32)
        reference = stack[len(stack) // 2]
        stack = np.stack([_lit(one, 1 / _gain(one, reference)) for one in stack])
        median = np.median(stack, axis=0).astype(np.float32)
        spread = np.median(np.abs(stack - median), axis=0).astype(np.float32) * np.float32(1.4826)
        slope = np.abs(cv2.Sobel(median, cv2.CV_32F, 1, 0)) + np.abs(cv2.Sobel(median, cv2.CV_32F, 0, 1))
        near = cv2.dilate(slope / 8, np.ones((3, 3), np.uint8))
        # One picture's noise is no measure; that of its neighbourhood is.
        noise = cv2.blur(spread, (15, 5))
        slack = np.maximum(LEAST_APART, DEVIATIONS * np.minimum(spread, 2 * noise + 1)) + near
        return cls(median, np.asarray(slack, np.float32))

    def apart(self, band: NDArray[np.generic]) -> tuple[float, float]:
        """Which share of the edge itself, and of the band, differs from the usual in a picture."""
        seen = band.astype(np.float32)
        gain = _gain(seen, self.median)
        loose = np.float32(GAIN_SLACK * abs(gain - 1)) * np.abs(self.median - ORIGIN)
        differs = (np.abs(seen - _lit(self.median, gain)) > self.slack + loose).any(axis=-1)
        active = cv2.morphologyEx(differs.astype(np.uint8), cv2.MORPH_OPEN, np.ones((3, 3), np.uint8))
        line = max(2, round(len(band) * LINE / BAND))
        return float(active[:line].any(axis=0).mean()), float(active.mean())


def _lit(band: NDArray[np.float32], gain: float) -> NDArray[np.float32]:
    """A band as it would be in other light."""
    return np.asarray((band - ORIGIN) * np.float32(gain) + ORIGIN, np.float32)


def _gain(band: NDArray[np.float32], usual: NDArray[np.float32]) -> float:
    wanted, seen = usual[..., 0], band[..., 0]
    told = (wanted > BLACK + 8) & (wanted < 235) & (seen < 250)
    if told.sum() < 30:
        return 1.0
    found = float(np.median((seen[told] - BLACK) / (wanted[told] - BLACK)))
    return min(max(found, 1 / MOST_GAIN), MOST_GAIN)


def usuals_of(pictures: list[tuple[Band, ...]]) -> dict[Side, Usual]:
    """What usually is at each edge."""
    return {side: Usual.of([bands[at] for bands in pictures]) for at, side in enumerate(SIDES)}


def touched_in(bands: tuple[Band, ...], usuals: dict[Side, Usual]) -> Touched:
    """What differs in one picture."""
    found = [usuals[side].apart(band) for side, band in zip(SIDES, bands, strict=True)]
    edges, parts = zip(*found, strict=True)
    return Touched(edges, parts)
