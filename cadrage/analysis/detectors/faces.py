"""Faces in a small picture: by a learned detector, or by the cascade that ships with OpenCV where its model is missing.

The learned one looks at 192×192 samples of the whole picture, and where it finds nothing, at square tiles of it. Sizes,
outputs and thresholds come from our own trials on labelled pictures; see docs/following.md.
"""

from functools import cache
from pathlib import Path

import cv2
import numpy as np
from numpy.typing import NDArray

from cadrage.analysis.detectors.box import Box
from cadrage.analysis.detectors.models import FACES

Rgb = NDArray[np.uint8]
SIDE = 192
"""Columns and rows that the detector looks at."""
CELLS = 48
SURE, SURE_IN_TILE = 0.5, 0.55
SAME_FACE = 0.3
"""Overlap, of what both cover, from which two boxes are of one face."""
TILES_OVERLAP = 0.25
SMALLEST = 10
"""Least side of a face in the cascade, in pixels."""
OUTPUTS = ("reshaped_classifier_face_4", "reshaped_regressor_face_4")


def find_faces(picture: Rgb, *, in_tiles: bool = True) -> list[Box]:
    """Faces in a picture, in its pixels, the surest first.

    Args:
        picture: R'G'B', 8 bits, upright, with square pixels.
        in_tiles: whether small ones are looked for where one look at all of it finds none.
    """
    net = _net()
    if net is None:
        return _by_cascade(picture)
    rows, columns = picture.shape[:2]
    found = _merged(_in_part(net, picture, 0, 0, SURE))
    if found or not in_tiles or max(rows, columns) < 1.5 * min(rows, columns):
        return found
    return _merged(_in_tiles(net, picture))


@cache
def _net() -> cv2.dnn.Net | None:
    return cv2.dnn.readNetFromTFLite(str(FACES.path)) if FACES.here else None


def _in_tiles(net: cv2.dnn.Net, picture: Rgb) -> list[Box]:
    rows, columns = picture.shape[:2]
    side, length = min(rows, columns), max(rows, columns)
    count = int(np.ceil((length - side) / (side * (1 - TILES_OVERLAP)))) + 1
    found = []
    for start in np.linspace(0, length - side, count).astype(int):
        x, y = (int(start), 0) if columns >= rows else (0, int(start))
        tile = picture[y : y + side, x : x + side]
        found += [box for box in _in_part(net, tile, x, y, SURE_IN_TILE) if not _cut(box, x, y, side, columns, rows)]
    return found


def _cut(box: Box, x: int, y: int, side: int, columns: int, rows: int) -> bool:
    """Whether a face continues beyond an edge of its tile that is not one of the picture."""
    edge = 2
    return (
        (x > 0 and box.x < x + edge)
        or (y > 0 and box.y < y + edge)
        or (x + side < columns and box.x + box.width > x + side - edge)
        or (y + side < rows and box.y + box.height > y + side - edge)
    )


def _in_part(net: cv2.dnn.Net, part: Rgb, x: int, y: int, sure: float) -> list[Box]:
    """Faces in a part of a picture that begins at a column and a row of it."""
    rows, columns = part.shape[:2]
    scale = SIDE / max(rows, columns)
    size = max(1, round(columns * scale)), max(1, round(rows * scale))
    small = cv2.resize(part, size, interpolation=cv2.INTER_AREA if scale < 1 else cv2.INTER_LINEAR)
    left, top = (SIDE - size[0]) // 2, (SIDE - size[1]) // 2
    canvas = np.zeros((SIDE, SIDE, 3), np.float32)
    canvas[top : top + size[1], left : left + size[0]] = small
    net.setInput(cv2.dnn.blobFromImage(canvas, 1 / 127.5, (SIDE, SIDE), (127.5, 127.5, 127.5)))
    logits, boxes = (np.asarray(one) for one in net.forward(OUTPUTS))
    scores = 1 / (1 + np.exp(-np.clip(logits.reshape(-1), -60, 60)))
    found = []
    for at in np.flatnonzero(scores > sure):
        across, down, width, height = boxes.reshape(-1, boxes.shape[-1])[at, :4]
        middle_x = (at % CELLS + 0.5) * SIDE / CELLS + across
        middle_y = (at // CELLS + 0.5) * SIDE / CELLS + down
        corner = middle_x - width / 2 - left, middle_y - height / 2 - top
        found.append(
            Box(
                float(corner[0] / scale + x),
                float(corner[1] / scale + y),
                float(width / scale),
                float(height / scale),
                float(scores[at]),
            )
        )
    return found


def _merged(boxes: list[Box]) -> list[Box]:
    """One box for each face: the mean of those that overlap, weighted by their confidence."""
    left = sorted(boxes, key=lambda box: -box.score)
    merged = []
    while left:
        group = [box for box in left if box is left[0] or box.overlap(left[0]) > SAME_FACE]
        left = [box for box in left if box not in group]
        weights = np.array([box.score for box in group])
        sides = np.array([(box.x, box.y, box.width, box.height) for box in group])
        x, y, width, height = (float(side) for side in weights @ sides / weights.sum())
        merged.append(Box(x, y, width, height, group[0].score))
    return merged


@cache
def _cascade() -> cv2.CascadeClassifier:
    return cv2.CascadeClassifier(str(Path(cv2.__path__[0]) / "data" / "haarcascade_frontalface_alt2.xml"))


def _by_cascade(picture: Rgb) -> list[Box]:
    grey = cv2.cvtColor(picture, cv2.COLOR_RGB2GRAY)
    found = _cascade().detectMultiScale(grey, 1.1, 4, minSize=(SMALLEST, SMALLEST))
    return [Box(float(x), float(y), float(width), float(height), SURE) for x, y, width, height in found]
