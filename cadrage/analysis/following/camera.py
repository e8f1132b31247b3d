"""How the camera moved from one picture to the next, and what moved otherwise."""

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from cadrage.analysis.detectors.box import Box
from cadrage.analysis.following.samples import Grey

FEATURES, QUALITY, APART = 100, 0.01, 8
WINDOW = (11, 11)
LEVELS = 3
FEWEST = 8
RANSAC_PIXELS = 1.5
DEVIATIONS, FLOOR, GRADIENT = 3.5, 3.0, 0.6
SMALLEST = 0.0006
"""Of the picture: what moves and is smaller is noise."""
LARGEST = 0.5
ERODED, GROWN = (3, 3), (9, 9)
MARGIN = 4
"""Pixels at the picture's edges that the warped picture may not reach."""
FLICKER = 0.35
"""Of the picture: where more differs than that, it is the light, or the camera was not understood."""
Points = NDArray[np.float32]


@dataclass(frozen=True, slots=True)
class CameraStep:
    """How a picture lies over the one before it.

    Attributes:
        matrix: 2×3, from a point of the one before to the same point of the scene in this one, in pixels.
        sure: the share of points that moved so, 0 to 1.
    """

    matrix: NDArray[np.float64]
    sure: float

    @property
    def back(self) -> "CameraStep":
        """The other way."""
        return CameraStep(np.asarray(cv2.invertAffineTransform(self.matrix)), self.sure)

    @property
    def still(self) -> bool:
        """Whether it is no movement that can be seen."""
        turned, shifted = np.abs(self.matrix - STILL)[:, :2].max(), np.abs(self.matrix[:, 2]).max()
        return bool(turned < STILL_TURNED and shifted < STILL_SHIFTED)


STILL = np.array([[1.0, 0, 0], [0, 1, 0]])
STILL_TURNED, STILL_SHIFTED = 5e-4, 0.2
"""The error of a matrix, as a shift in pixels, up to which nothing has visibly moved."""


def camera_step(before: Grey, now: Grey) -> CameraStep:
    """The similarity that takes most of one picture to the next: Lucas-Kanade on good features, RANSAC."""
    points = cv2.goodFeaturesToTrack(before, FEATURES, QUALITY, APART)
    if points is None or len(points) < FEWEST:
        return CameraStep(STILL, 0.0)
    moved, found, _ = cv2.calcOpticalFlowPyrLK(
        before, now, points, np.empty_like(points), winSize=WINDOW, maxLevel=LEVELS
    )
    kept = found.ravel() == 1
    if kept.sum() < FEWEST:
        return CameraStep(STILL, 0.0)
    start, end = points[kept].reshape(-1, 2), moved[kept].reshape(-1, 2)
    matrix, inliers = cv2.estimateAffinePartial2D(
        start, end, method=cv2.RANSAC, ransacReprojThreshold=RANSAC_PIXELS, maxIters=500, confidence=0.99
    )
    if matrix is None:
        return CameraStep(STILL, 0.0)
    return CameraStep(np.asarray(matrix, np.float64), float(inliers.mean()))


def movers(before: Grey, now: Grey, camera: CameraStep) -> list[Box]:
    """What moved against the camera, in pixels of the picture now, the largest first."""
    rows, columns = now.shape
    warped = (
        before
        if camera.still
        else cv2.warpAffine(
            before, camera.matrix, (columns, rows), flags=cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE
        )
    )
    apart = cv2.GaussianBlur(cv2.absdiff(warped, now), (5, 5), 0).astype(np.float32)
    slope = (
        cv2.GaussianBlur(
            np.abs(cv2.Sobel(warped, cv2.CV_32F, 1, 0)) + np.abs(cv2.Sobel(warped, cv2.CV_32F, 0, 1)), (5, 5), 0
        )
        / 8
    )
    loose = 0.0 if camera.still else GRADIENT
    moving = apart - DEVIATIONS * float(np.median(apart)) - FLOOR - loose * slope > 0
    moving[:MARGIN], moving[-MARGIN:], moving[:, :MARGIN], moving[:, -MARGIN:] = False, False, False, False
    if moving.mean() > FLICKER:
        return []
    mask = cv2.morphologyEx(moving.astype(np.uint8), cv2.MORPH_OPEN, np.ones(ERODED, np.uint8))
    joined = cv2.dilate(mask, np.ones(GROWN, np.uint8))
    count, labels, stats, _ = cv2.connectedComponentsWithStats(joined)
    found = []
    for number in range(1, count):
        x, y, width, height = (int(value) for value in stats[number, :4])
        inside = mask[y : y + height, x : x + width] & (labels[y : y + height, x : x + width] == number)
        share = inside.sum() / (rows * columns)
        if SMALLEST <= share <= LARGEST:
            found.append(_box_of(inside, x, y))
    return sorted(found, key=lambda box: -box.area)


def _box_of(inside: Grey, x: int, y: int) -> Box:
    """Around what moved, without the dilation."""
    down, across = np.flatnonzero(inside.any(axis=1)), np.flatnonzero(inside.any(axis=0))
    left, top = x + int(across[0]), y + int(down[0])
    return Box(left, top, x + int(across[-1]) + 1 - left, y + int(down[-1]) + 1 - top)
