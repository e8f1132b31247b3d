"""A box that was drawn round anything, followed both ways by what is in it.

Two templates, the first look and one that slowly learns, are correlated with the next picture where points inside the
box say that it went, at three sizes. Where it is not to be found it is lost at once, and looked for again after that.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt

import cv2
import numpy as np
from numpy.typing import NDArray

from cadrage.analysis.detectors.box import Box
from cadrage.analysis.following.camera import STILL, CameraStep
from cadrage.analysis.following.flow import moved, shifted
from cadrage.analysis.following.samples import Grey

PATCH_AREA = 1000
"""Samples of a template."""
SEARCHED, SEARCHED_WELL, NEARBY = 0.4, 1.2, 0.12
"""Of its sides: how far to either side a box is looked for: where it is expected, where it was, where it is."""
SIZES = (1 / 1.05, 1.05)
SIZED_EACH = 2
"""Samples from one look at other sizes to the next."""
SURE = 0.75
"""As alike as that, it is looked for nowhere else."""
UNMOVED = CameraStep(STILL, 0.0)
FIRST, SLOW = 0.4, 0.6
LEARNS = 0.12
HELD, AGAIN = 0.5, 0.66
"""How alike it is at least while it is followed, and where it is found again."""
LOOKED_EACH = 2
"""Samples from one search of the whole picture to the next while it is lost."""
GIVEN_UP = 63
"""Samples after which it is looked for no more."""
KEEPS_SIZE = 0.008
"""How much more alike another size is to be before it is taken."""
STAYS = 0.35
"""Of it that must be inside the picture."""
Floats = NDArray[np.float32]


@dataclass(frozen=True, slots=True)
class Found:
    """The position of a box in a sample, and the similarity of its contents, 0 to 1."""

    box: Box
    alike: float


class _Follower:
    """Follows one box in one direction.

    Args:
        grey: the picture on which it was drawn.
        box: as it was drawn.
    """

    def __init__(self, grey: Grey, box: Box) -> None:
        scale = sqrt(PATCH_AREA / max(box.area, 1.0))
        self.size = max(8, round(box.width * scale)), max(8, round(box.height * scale))
        self.first = self.slow = self._patch(grey, box).astype(np.float32)
        self.box, self.before, self.lost, self.steps = box, grey, 0, 0
        self.speed = (0.0, 0.0)

    def _patch(self, grey: Grey, box: Box, reach: float = 0.0) -> Grey:
        """The contents and surroundings of a box, in the size of the template."""
        columns, rows = self.size
        across, down = box.width / columns, box.height / rows
        more = round(reach * columns), round(reach * rows)
        matrix = np.array(
            [
                [across, 0, box.x - more[0] * across + across / 2 - 0.5],
                [0, down, box.y - more[1] * down + down / 2 - 0.5],
            ]
        )
        return np.asarray(
            cv2.warpAffine(
                grey,
                matrix,
                (columns + 2 * more[0], rows + 2 * more[1]),
                flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP,
                borderMode=cv2.BORDER_REPLICATE,
            ),
            np.uint8,
        )

    def step(self, grey: Grey) -> Found | None:
        """Where it is in the next picture; None where it is lost."""
        found = self._near(grey) if not self.lost else self._anywhere(grey)
        if found is None:
            self.lost += 1
        else:
            going = (new - old for new, old in zip(found.box.middle, self.box.middle, strict=True))
            self.speed = (0.0, 0.0) if self.lost else (next(going), next(going))
            self.lost, self.box = 0, found.box
            seen = self._patch(grey, found.box).astype(np.float32)
            self.slow = (1 - LEARNS) * self.slow + LEARNS * seen
        self.before = grey
        return found

    def _near(self, grey: Grey) -> Found | None:
        found = self._best(grey, shifted(self.box, *self.speed), SEARCHED)
        if found.alike < SURE:
            went = moved([self.box], self.before, grey, UNMOVED)[0].box
            expected = _sized(went, self.box.width / went.width)
            others = [self._best(grey, expected, SEARCHED), self._best(grey, self.box, SEARCHED_WELL)]
            if others[1].alike < AGAIN:  # so far away it may be anything
                del others[1]
            found = max(found, *others, key=lambda one: one.alike)
        self.steps += 1
        if found.alike >= HELD and self.steps % SIZED_EACH == 0:
            sized = [self._best(grey, _sized(found.box, size), NEARBY) for size in SIZES]
            found = max(found, *sized, key=lambda one: one.alike - (0 if one is found else KEEPS_SIZE))
        return found if found.alike >= HELD and _inside(found.box, grey) else None

    def _best(self, grey: Grey, box: Box, reach: float) -> Found:
        """The best place near a box, at its size."""
        scores = self._scores(self._patch(grey, box, reach))
        _, best, _, (x, y) = cv2.minMaxLoc(scores)
        at = _peak(scores, x, y)
        more = round(reach * self.size[0]), round(reach * self.size[1])
        across, down = box.width / self.size[0], box.height / self.size[1]
        left, top = box.x + (at[0] - more[0]) * across, box.y + (at[1] - more[1]) * down
        return Found(Box(left, top, box.width, box.height), float(best))

    def _scores(self, around: Grey) -> Floats:
        seen = around.astype(np.float32)
        first, slow = (cv2.matchTemplate(seen, template, cv2.TM_CCOEFF_NORMED) for template in (self.first, self.slow))
        return np.asarray(FIRST * first + SLOW * slow, np.float32)

    def _anywhere(self, grey: Grey) -> Found | None:
        """Look for it in all of the picture."""
        if self.lost > GIVEN_UP or self.lost % LOOKED_EACH:
            return None
        across, down = self.size[0] / self.box.width, self.size[1] / self.box.height
        whole = cv2.resize(grey, None, fx=across, fy=down, interpolation=cv2.INTER_AREA)
        if whole.shape[0] < self.size[1] or whole.shape[1] < self.size[0]:
            return None
        _, best, _, (x, y) = cv2.minMaxLoc(self._scores(np.asarray(whole, np.uint8)))
        if best < AGAIN:
            return None
        found = self._best(grey, Box(x / across, y / down, self.box.width, self.box.height), NEARBY)
        return found if found.alike >= AGAIN else None


def _sized(box: Box, size: float) -> Box:
    width, height = box.width * size, box.height * size
    return Box.about(box.middle, width, height)


def _inside(box: Box, grey: Grey) -> bool:
    rows, columns = grey.shape
    return box.shared(Box(0, 0, columns, rows)) >= STAYS * box.area


def _peak(scores: Floats, x: int, y: int) -> tuple[float, float]:
    """The place of a peak between samples: the vertex of parabolas through it and its neighbours."""
    at = [float(x), float(y)]
    rows, columns = scores.shape
    if 0 < x < columns - 1:
        at[0] += _vertex(scores[y, x - 1], scores[y, x], scores[y, x + 1])
    if 0 < y < rows - 1:
        at[1] += _vertex(scores[y - 1, x], scores[y, x], scores[y + 1, x])
    return at[0], at[1]


def _vertex(before: float, peak: float, after: float) -> float:
    bend = float(before) - 2 * float(peak) + float(after)
    return 0.5 * (float(before) - float(after)) / bend if bend else 0.0


def follow_box(greys: Sequence[Grey], drawn_at: int, box: Box) -> list[Found | None]:
    """Where a box is in every sample; None where it is lost.

    Args:
        greys: the samples of a shot.
        drawn_at: the number of the one on which it was drawn.
        box: in pixels of the samples.
    """
    found: list[Found | None] = [None] * len(greys)
    found[drawn_at] = Found(box, 1.0)
    for numbers in (range(drawn_at + 1, len(greys)), range(drawn_at - 1, -1, -1)):
        follower = _Follower(greys[drawn_at], box)
        for number in numbers:
            found[number] = follower.step(greys[number])
    return found
