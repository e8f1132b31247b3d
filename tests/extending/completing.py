"""What is invented beside photographs, against what was there: the middle is kept, and both sides are made up."""

from dataclasses import dataclass

import cv2
import numpy as np

from cadrage.extend.completion import Variant, completed
from tests.extending.photographs import photograph

KEPT = 0.5
"""Of the width: what is kept, in the middle."""
BINS = 24
TWELVE = (
    *("coffee", "rocket", "chelsea", "grass", "gravel", "brick", "camera"),
    *("home.jpg", "leuvenA.jpg", "leuvenB.jpg", "building.jpg", "graf1.png"),
)
LINES = 300


@dataclass(frozen=True)
class Completion:
    """What was measured.

    Attributes:
        name: of the photograph.
        gradients: distance of the histograms of slopes, invented against true: half the sum of differences, 0 to 1.
        sharpness: mean slope of what is invented against that of what is kept.
        inner: difference from the truth in the zone next to the join, against that of the true picture from its own
            mirror there.
        picture: all of it, R'G'B'.
    """

    name: str
    gradients: float
    sharpness: float
    inner: float
    picture: np.ndarray


def measured(name: str, variant: int = 0) -> Completion:
    """One photograph."""
    image = photograph(name)
    scale = LINES / image.shape[0]
    size = round(image.shape[1] * scale), LINES
    image = cv2.resize(image, size, interpolation=cv2.INTER_AREA if scale < 1 else cv2.INTER_CUBIC)
    wide = image.shape[1]
    left = round(wide * (1 - KEPT) / 2)
    right = wide - left
    whole = cv2.cvtColor(image, cv2.COLOR_RGB2YCrCb).astype(np.float32)
    middle = np.ascontiguousarray(whole[:, left:right])
    one = completed(middle, wide - right, Variant(variant))
    other = completed(np.ascontiguousarray(middle[:, ::-1]), left, Variant(variant))[:, ::-1]
    made = np.concatenate([other, middle, one], axis=1)
    invented = np.concatenate([other[..., 0], one[..., 0]], axis=1)
    truth = np.concatenate([whole[:, :left, 0], whole[:, right:, 0]], axis=1)
    distance = 0.5 * float(np.abs(_slopes(invented) - _slopes(truth)).sum())
    sharp = _mean_slope(invented) / _mean_slope(middle[..., 0])
    zone = max(4, round(0.04 * LINES))
    inner = _zone(made[..., 0], left, right, zone) / max(_zone(whole[..., 0], left, right, zone), 1e-3)
    shown = cv2.cvtColor(np.clip(made + 0.5, 0, 255).astype(np.uint8), cv2.COLOR_YCrCb2RGB)
    return Completion(name, distance, sharp, inner, shown)


def _slope(luma: np.ndarray) -> np.ndarray:
    across, down = np.diff(luma, axis=1)[:-1], np.diff(luma, axis=0)[:, :-1]
    return np.hypot(across, down)


def _slopes(luma: np.ndarray) -> np.ndarray:
    """The histogram of slopes, on a scale that grows as the eye's."""
    counts, _ = np.histogram(np.log1p(_slope(luma)), bins=BINS, range=(0, np.log1p(120)))
    return counts / counts.sum()


def _mean_slope(luma: np.ndarray) -> float:
    return float(_slope(luma).mean())


def _zone(luma: np.ndarray, left: int, right: int, zone: int) -> float:
    """How uneven a picture is across the joins: slopes across, in a zone outside each."""
    across = np.abs(np.diff(luma, axis=1))
    return float(np.mean([across[:, left - zone : left].mean(), across[:, right - 1 : right - 1 + zone].mean()]))
