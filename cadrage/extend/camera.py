"""How one picture of a shot lies over another, to a small part of a pixel.

Features spread over the whole picture, Lucas-Kanade forward and backward, RANSAC, and least squares over all that
agree: the similarity that takes one picture to the other.
"""

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

Grey = NDArray[np.uint8]
Matrix = NDArray[np.float64]
CELLS = 8
IN_CELL = 6
QUALITY, APART = 0.0008, 5
WINDOW, LEVELS = (15, 15), 4
THERE_AND_BACK = 0.7
RANSAC_PIXELS = 0.8
FEWEST = 12
LEAST_AGREEING = 0.3
"""Of the points: what must agree to be believed."""
CHANCE = 8.0
"""How much of a point's share of what is left a turn or a scale may take away by chance, for both together."""
BLACK, DARKEST, LIGHTEST, SAME_LIGHT = 16.0, 26, 235, 0.004
MIDDLE = 0.56
"""Of the picture's width and height: what counts as its middle."""
STILL: Matrix = np.array([[1.0, 0.0, 0.0], [0.0, 1.0, 0.0]])


@dataclass(frozen=True, slots=True)
class Registration:
    """How a picture lies over another.

    Attributes:
        matrix: 2×3, from a point of the first to the same point of the scene in the second, in pixels, pixel centres at
            half-integers.
        sure: the share of features that agree, 0 to 1; 0 where nothing could be told.
    """

    matrix: Matrix
    sure: float

    def moved(self, width: int, height: int) -> float:
        """How far the corners of a picture of a size move, on average, in pixels."""
        corners = np.array([[0, 0, 1], [width, 0, 1], [0, height, 1], [width, height, 1]], np.float64)
        return float(np.linalg.norm(corners @ self.matrix.T - corners[:, :2], axis=1).mean())


def features(grey: Grey) -> NDArray[np.float32]:
    """Places that can be found again, (count, 2), so many to each cell of the picture."""
    rows, columns = grey.shape
    strength = cv2.cornerMinEigenVal(grey, 3)
    floor = max(QUALITY * float(strength.max()), 1e-6)
    found = []
    for row in range(CELLS):
        for column in range(CELLS):
            top, left = row * rows // CELLS, column * columns // CELLS
            cell = strength[top : (row + 1) * rows // CELLS, left : (column + 1) * columns // CELLS].copy()
            for _ in range(IN_CELL):
                _, best, _, (x, y) = cv2.minMaxLoc(cell)
                if best <= floor:
                    break
                found.append((left + x, top + y))
                cell[max(0, y - APART) : y + APART + 1, max(0, x - APART) : x + APART + 1] = 0
    return np.array(found, np.float32).reshape(-1, 2)


def register(
    before: Grey, now: Grey, places: NDArray[np.float32] | None = None, guess: Matrix | None = None
) -> Registration:
    """How a picture lies over another of the same size.

    What is far from the picture's middle counts first: there the scene goes on, and in the middle somebody may move.

    Args:
        before: the first.
        now: the second.
        places: features of the first, where they are known.
        guess: about where the first lies in the second.
    """
    start = features(before) if places is None else places
    if len(start) < FEWEST:
        return Registration(STILL, 0.0)
    one, other = _followed(before, _as_light(before, now), start, guess)
    outer = _outer(one, before.shape)
    for chosen in (outer, np.ones(len(one), bool)):
        found = _agreeing(one[chosen], other[chosen])
        if found is not None:
            # All that agree with what was found, wherever they are.
            agree = np.linalg.norm(one @ found[:, :2].T + found[:, 2] - other, axis=1) < RANSAC_PIXELS
            within = _within(start.astype(np.float64), found, before.shape)
            return Registration(_plainest(one[agree], other[agree]), float(agree.sum() / max(within, FEWEST)))
    return Registration(STILL, 0.0)


def _as_light(before: Grey, now: Grey) -> Grey:
    """A picture about as light as another: what is followed must look alike."""
    size = max(8, before.shape[1] // 10), max(8, before.shape[0] // 10)
    one, other = (cv2.resize(grey, size, interpolation=cv2.INTER_AREA).astype(np.float32) for grey in (before, now))
    told = (one > DARKEST) & (other > DARKEST) & (one < LIGHTEST) & (other < LIGHTEST)
    if told.sum() < 20:
        return now
    gain = float(np.median((one[told] - BLACK) / (other[told] - BLACK)))
    if abs(gain - 1) < SAME_LIGHT:
        return now
    return np.asarray(cv2.convertScaleAbs(now, alpha=gain, beta=BLACK * (1 - gain)), np.uint8)


def _followed(
    before: Grey, now: Grey, start: NDArray[np.float32], guess: Matrix | None
) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Features that are found there and back, in both pictures; pixel centres at half-integers, as everywhere here."""
    points = start.reshape(-1, 1, 2)
    flags = 0
    first = np.empty_like(points)
    if guess is not None:
        flags = cv2.OPTFLOW_USE_INITIAL_FLOW
        shifted = (start + 0.5) @ guess[:, :2].T.astype(np.float32) + guess[:, 2].astype(np.float32) - 0.5
        first = np.ascontiguousarray(shifted.reshape(-1, 1, 2), np.float32)
    size, levels, ends = WINDOW, LEVELS, (cv2.TERM_CRITERIA_EPS | cv2.TERM_CRITERIA_COUNT, 20, 0.01)
    moved, there, _ = cv2.calcOpticalFlowPyrLK(
        before, now, points, first, winSize=size, maxLevel=levels, criteria=ends, flags=flags
    )
    back, again, _ = cv2.calcOpticalFlowPyrLK(
        now,
        before,
        moved,
        points.copy(),
        winSize=size,
        maxLevel=levels,
        criteria=ends,
        flags=cv2.OPTFLOW_USE_INITIAL_FLOW,
    )
    kept = (there.ravel() == 1) & (again.ravel() == 1)
    kept &= np.linalg.norm((back - points).reshape(-1, 2), axis=1) < THERE_AND_BACK
    rows, columns = now.shape
    on = moved.reshape(-1, 2)
    kept &= (on[:, 0] > 0) & (on[:, 1] > 0) & (on[:, 0] < columns - 1) & (on[:, 1] < rows - 1)
    return start[kept].astype(np.float64) + 0.5, on[kept].astype(np.float64) + 0.5


def _outer(points: NDArray[np.float64], shape: tuple[int, ...]) -> NDArray[np.bool_]:
    """Which points lie outside the middle of a picture."""
    away = np.abs(points / [shape[1], shape[0]] - 0.5)
    return np.asarray((away > MIDDLE / 2).any(axis=1))


def _within(points: NDArray[np.float64], matrix: Matrix, shape: tuple[int, ...]) -> int:
    """How many points of the first picture the second still shows."""
    on = points @ matrix[:, :2].T + matrix[:, 2]
    return int(((on >= 0) & (on <= [shape[1], shape[0]])).all(axis=1).sum())


def _agreeing(one: NDArray[np.float64], other: NDArray[np.float64]) -> Matrix | None:
    """The similarity that most of some points agree with; None where too few do."""
    if len(one) < FEWEST:
        return None
    found, inliers = cv2.estimateAffinePartial2D(
        one,
        other,
        method=cv2.RANSAC,
        ransacReprojThreshold=RANSAC_PIXELS,
        maxIters=400,
        confidence=0.995,
        refineIters=0,
    )
    if found is None or inliers.sum() < max(FEWEST, LEAST_AGREEING * len(one)):
        return None
    agree = inliers.ravel() == 1
    return similarity(one[agree], other[agree])


def _plainest(one: NDArray[np.float64], other: NDArray[np.float64]) -> Matrix:
    """The shift that takes points to others, where turning and scaling explain no more than chance would."""
    found = similarity(one, other)
    left = float(((one @ found[:, :2].T + found[:, 2] - other) ** 2).sum())
    shift = (other - one).mean(axis=0)
    plain = float(((one + shift - other) ** 2).sum())
    return np.hstack([np.eye(2), shift[:, None]]) if plain <= left * (1 + CHANCE / len(one)) else found


def similarity(one: NDArray[np.float64], other: NDArray[np.float64]) -> Matrix:
    """The similarity that takes points to others with the least squares of distances."""
    from_middle, to_middle = one.mean(axis=0), other.mean(axis=0)
    a, b = one - from_middle, other - to_middle
    size = (a**2).sum()
    scaled = (a * b).sum() / size
    turned = (a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0]).sum() / size
    linear = np.array([[scaled, -turned], [turned, scaled]])
    return np.hstack([linear, (to_middle - linear @ from_middle)[:, None]])


def then(first: Matrix, second: Matrix) -> Matrix:
    """One after the other."""
    linear = second[:, :2] @ first[:, :2]
    return np.hstack([linear, (second[:, :2] @ first[:, 2] + second[:, 2])[:, None]])


def for_opencv(matrix: Matrix) -> Matrix:
    """The same with pixel centres at integers, as OpenCV has them; here they lie at half-integers."""
    made = matrix.copy()
    made[:, 2] += made[:, :2] @ [0.5, 0.5] - [0.5, 0.5]
    return made


def back(matrix: Matrix) -> Matrix:
    """The other way."""
    return np.asarray(cv2.invertAffineTransform(matrix), np.float64)


def scaled(matrix: Matrix, across: float, down: float | None = None) -> Matrix:
    """The same in pixels so many times smaller, so that there are so many times more of them each way."""
    down = across if down is None else down
    out, inward = np.diag([across, down]), np.diag([1 / across, 1 / down])
    return np.hstack([out @ matrix[:, :2] @ inward, (out @ matrix[:, 2])[:, None]])
