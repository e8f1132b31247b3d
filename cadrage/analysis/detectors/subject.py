"""The subject of a picture, where a learned detector of people in front of a background sees one.

It also fires on pictures without anybody, so what it finds counts only where it goes on being found.
"""

from functools import cache

import cv2
import numpy as np
from numpy.typing import NDArray

from cadrage.analysis.detectors.box import Box
from cadrage.analysis.detectors.faces import Rgb
from cadrage.analysis.detectors.models import SUBJECT

SIZE = (256, 144)
"""Columns and rows that the detector looks at."""
SEEN = 0.3
"""The mask value from which a sample belongs to a person."""
LEAST, MOST = 0.02, 0.6
"""Of the picture: what a subject covers; less is a speck, more is no subject."""
OUTPUT = "segment_back"


def find_subjects(picture: Rgb) -> list[Box]:
    """A person in a picture, in its pixels, the largest first; none if the model is missing.

    Args:
        picture: R'G'B', 8 bits, upright, with square pixels.
    """
    net = _net()
    if net is None:
        return []
    net.setInput(cv2.dnn.blobFromImage(picture, 1 / 255, SIZE))
    mask: NDArray[np.float32] = np.asarray(net.forward(OUTPUT))[0, 0]
    count, _, stats, _ = cv2.connectedComponentsWithStats((mask > SEEN).astype(np.uint8))
    rows, columns = picture.shape[:2]
    across, down = columns / SIZE[0], rows / SIZE[1]
    found = []
    for number in range(1, count):
        x, y, width, height, area = (int(value) for value in stats[number])
        share = area / (SIZE[0] * SIZE[1])
        if LEAST <= share <= MOST:
            sure = float(mask[y : y + height, x : x + width].max())
            found.append(Box(x * across, y * down, width * across, height * down, sure))
    return sorted(found, key=lambda box: -box.area)


@cache
def _net() -> cv2.dnn.Net | None:
    return cv2.dnn.readNetFromTFLite(str(SUBJECT.path)) if SUBJECT.here else None
