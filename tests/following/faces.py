"""How well faces are found: those of scikit-image, drawn at known places and sizes; and pictures without any.

The faces are the hundred of `lfw_subset` (Labeled Faces in the Wild, Huang and others 2007) and that of `astronaut`.
"""

from dataclasses import dataclass

import cv2
import numpy as np
from skimage import data

from cadrage.analysis.detectors.box import Box
from cadrage.analysis.detectors.faces import find_faces
from tests.following import drawing

SIZES = (16, 24, 32, 64)
WITHOUT = ("coffee", "chelsea", "rocket", "brick", "grass", "gravel", "coins", "page", "text", "clock", "moon")
"""Pictures of scikit-image that show no face of a person."""
SIDE = (384, 216)
FRAMES = 40
"""Pictures for each size, each with one face."""
HIT = 0.25


@dataclass(frozen=True)
class FaceFigures:
    """Of faces of one size: how many are found, and how much of what is found is one."""

    size: int
    recall: float
    precision: float


def at_size(size: int) -> FaceFigures:
    """Put faces of a size into pictures, and look for them."""
    random = np.random.default_rng(size)
    right = wrong = 0
    for number in range(FRAMES):
        image = drawing.place(40 + number, *SIDE).copy()
        x = float(random.uniform(size, SIDE[0] - size))
        y = float(random.uniform(size, SIDE[1] - size))
        drawing.put_face(image, x, y, size * 1.25)
        if number % 2:
            image = np.ascontiguousarray(image[:, ::-1])
            x = SIDE[0] - x
        light = float(random.uniform(0.6, 1.2))
        found = find_faces(np.clip(image * light, 0, 255).astype(np.uint8))
        true = [box for box in found if _near(box, x, y, size)]
        right += bool(true)
        wrong += len(found) - len(true)
    return FaceFigures(size, right / FRAMES, right / max(1, right + wrong))


def _near(box: Box, x: float, y: float, size: float) -> bool:
    return max(abs(box.middle[0] - x), abs(box.middle[1] - y)) < size * 0.75


def photographed(size: int) -> tuple[int, int]:
    """How many of the hundred photographed faces are found at a size, each alone on grey; and how many there are."""
    faces = data.lfw_subset()[:100]
    found = 0
    for face in faces:
        image = np.full((SIDE[1], SIDE[0], 3), 118, np.uint8)
        small = cv2.resize((face * 255).astype(np.uint8), (size, size), interpolation=cv2.INTER_AREA)
        top, left = (SIDE[1] - size) // 2, (SIDE[0] - size) // 2
        image[top : top + size, left : left + size] = small[..., None]
        found += any(_near(box, SIDE[0] / 2, SIDE[1] / 2, size) for box in find_faces(image))
    return found, len(faces)


def invented() -> dict[str, int]:
    """How many faces are found in pictures that show none."""
    found = {}
    for name in WITHOUT:
        image = np.asarray(getattr(data, name)())
        image = np.dstack([image] * 3) if image.ndim == 2 else image[..., :3]
        scale = (384 * 216 / (image.shape[0] * image.shape[1])) ** 0.5
        small = cv2.resize(image.astype(np.uint8), None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
        found[name] = len(find_faces(small))
    return found
