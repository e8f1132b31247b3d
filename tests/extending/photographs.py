"""Photographs that come with scikit-image and with Debian's opencv-doc, as R'G'B'."""

from functools import cache
from pathlib import Path

import cv2
import numpy as np
from skimage import data

OPENCV = Path("/usr/share/doc/opencv-doc/examples/data")
SKIMAGE = ("coffee", "rocket", "chelsea", "grass", "gravel", "brick", "camera", "astronaut")
SHIPPED = ("home.jpg", "leuvenA.jpg", "leuvenB.jpg", "fruits.jpg", "aloeL.jpg", "building.jpg", "graf1.png")
"""Those of opencv-doc, where it is installed; nothing else is needed of it."""


@cache
def photograph(name: str) -> np.ndarray:
    """One of them, (rows, columns, 3), codes of 8 bits."""
    if name in SKIMAGE:
        image = getattr(data, name)()
        return np.ascontiguousarray(image[..., :3] if image.ndim == 3 else np.dstack([image] * 3))
    return np.ascontiguousarray(cv2.imread(str(OPENCV / name))[..., ::-1])


@cache
def names() -> tuple[str, ...]:
    """All that there are."""
    return (*SKIMAGE, *(name for name in SHIPPED if (OPENCV / name).exists()))


def sized(name: str, width: int, height: int) -> np.ndarray:
    """One of them enlarged or made smaller until it covers a size, and cut to it about its middle."""
    image = photograph(name)
    scale = max(width / image.shape[1], height / image.shape[0])
    size = max(width, round(image.shape[1] * scale)), max(height, round(image.shape[0] * scale))
    made = cv2.resize(image, size, interpolation=cv2.INTER_AREA if scale < 1 else cv2.INTER_CUBIC)
    left, top = (made.shape[1] - width) // 2, (made.shape[0] - height) // 2
    return np.ascontiguousarray(made[top : top + height, left : left + width])
