"""How boxes move from one picture to the next: by points inside them, checked there and back."""

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from cadrage.analysis.detectors.box import Box
from cadrage.analysis.following.camera import CameraStep
from cadrage.analysis.following.samples import Grey

GRID = 6
"""Points across and down a box."""
INSET = 0.12
BACK_WITHIN = 1.0
"""Pixels from where a point began that it may come back to."""
WINDOW, LEVELS = (11, 11), 3
FEWEST, SHARE = 4, 0.25
APART = 0.7
"""Pixels against the camera from which a point is the thing's own and not its background's."""
OWN = 0.25
"""The share of such points from which they alone tell."""
MOST_GROWTH = 1.12
PATCH = 24
"""Columns and rows of a box as it is compared."""
Patch = NDArray[np.float32]


@dataclass(frozen=True, slots=True)
class Moved:
    """Where a box is in the next picture, and the share of its points that came back, 0 to 1."""

    box: Box
    good: float


def moved(boxes: list[Box], before: Grey, now: Grey, camera: CameraStep, *, checked: bool = True) -> list[Moved]:
    """Where some boxes are in the next picture, all in one go. Unless it is checked there and back, whoever asks
    is to compare what is in them.
    """
    if not boxes:
        return []
    starts = np.concatenate([_grid(box) for box in boxes])
    found, there, _ = cv2.calcOpticalFlowPyrLK(
        before, now, starts, np.empty_like(starts), winSize=WINDOW, maxLevel=LEVELS
    )
    ends = np.asarray(found, np.float32)
    good = there.ravel() == 1
    if checked:
        came, back, _ = cv2.calcOpticalFlowPyrLK(
            now, before, ends, np.empty_like(ends), winSize=WINDOW, maxLevel=LEVELS
        )
        good &= (back.ravel() == 1) & (np.abs(came - starts).max(axis=1) < BACK_WITHIN)
    count = GRID * GRID
    parts = [slice(number * count, (number + 1) * count) for number in range(len(boxes))]
    return [_moved(box, starts[part], ends[part], good[part], camera) for box, part in zip(boxes, parts, strict=True)]


def _grid(box: Box) -> NDArray[np.float32]:
    across = np.linspace(box.x + INSET * box.width, box.x + (1 - INSET) * box.width, GRID)
    down = np.linspace(box.y + INSET * box.height, box.y + (1 - INSET) * box.height, GRID)
    return np.stack(np.meshgrid(across, down), axis=-1).reshape(-1, 2).astype(np.float32)


def _moved(
    box: Box, starts: NDArray[np.float32], ends: NDArray[np.float32], good: NDArray[np.bool_], camera: CameraStep
) -> Moved:
    share = float(good.mean())
    carried = starts @ camera.matrix[:, :2].T + camera.matrix[:, 2]
    if good.sum() < FEWEST:
        step = (carried - starts).mean(axis=0)
        return Moved(shifted(box, float(step[0]), float(step[1])), share)
    own = good & (np.abs(ends - carried).max(axis=1) > APART)
    kept = own if own.sum() >= max(FEWEST, OWN * good.sum()) else good
    step = np.median(ends[kept] - starts[kept], axis=0)
    growth = min(max(_growth(starts[kept], ends[kept]), 1 / MOST_GROWTH), MOST_GROWTH)
    middle = box.middle[0] + float(step[0]), box.middle[1] + float(step[1])
    width, height = box.width * growth, box.height * growth
    return Moved(Box.about(middle, width, height, box.score), share)


def _growth(starts: NDArray[np.float32], ends: NDArray[np.float32]) -> float:
    """How much farther points are from one another than they were; the median of pairs."""
    half = len(starts) // 2
    before = np.linalg.norm(starts[:half] - starts[-half:], axis=1)
    after = np.linalg.norm(ends[:half] - ends[-half:], axis=1)
    far = before > 2
    return float(np.median(after[far] / before[far])) if far.sum() >= FEWEST else 1.0


def shifted(box: Box, across: float, down: float) -> Box:
    """A box somewhere else."""
    return Box(box.x + across, box.y + down, box.width, box.height, box.score)


def patch_of(grey: Grey, box: Box) -> Patch:
    """The contents of a box, without its mean and of unit length, so that the product of two similar ones is near 1."""
    middle, sides = box.middle, (max(box.width, 4), max(box.height, 4))
    scale = np.array([[sides[0] / PATCH, 0, middle[0] - sides[0] / 2], [0, sides[1] / PATCH, middle[1] - sides[1] / 2]])
    seen = cv2.warpAffine(
        grey,
        scale,
        (PATCH, PATCH),
        flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP,
        borderMode=cv2.BORDER_REPLICATE,
    ).astype(np.float32)
    seen -= seen.mean()
    length = float(np.linalg.norm(seen))
    return seen / length if length > 1 else np.zeros_like(seen)


def alike(one: Patch, other: Patch) -> float:
    """How alike two patches are: their normalised correlation, -1 to 1."""
    return float((one * other).sum())
