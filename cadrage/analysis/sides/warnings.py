"""What stands at the edges of a picture that would go on badly: faces, people, writing, strong lines; and whether there
is sky above and even ground below.
"""

from typing import Literal

import cv2
import numpy as np
from numpy.typing import NDArray

from cadrage.analysis.detectors.faces import Rgb, find_faces
from cadrage.analysis.detectors.subject import find_subjects
from cadrage.extend.request import SIDES, Side

Grey = NDArray[np.uint8]
Warned = Literal["face", "subject", "text", "lines"]
KINDS: tuple[Warned, ...] = ("face", "subject", "text", "lines")
NEAR = 0.06
"""Of the picture's side: what is nearer to an edge stands at it."""
MOST_OF_WIDTH = 0.6
"""Of the picture: what is wider is no somebody at an edge."""
LONG = 0.12
"""Of the picture's height: lines that are as long are strong."""
LEAST_LINES = 3
SLANTED = (0.12, 0.9)
"""Of a line: what it goes along the edge for what it goes towards it, between which it runs askew to the edge."""
LETTERS = 5
"""Marks of one size in a row that are writing."""
BLOCKS, LARGE_SIGMA = 12, 8.0
UNEVEN, SMOOTH, JUMP = 1.8, 5.0, 16.0
"""How many times as rough as most one block of a band may be, how rough one is that is sky whatever the others are, and
how much lighter than its neighbour, in codes of 8 bits."""


def warnings_at(picture: Rgb) -> dict[Side, tuple[Warned, ...]]:
    """The obstacles at each edge.

    Args:
        picture: R'G'B', upright, with square pixels.
    """
    grey = np.asarray(cv2.cvtColor(picture, cv2.COLOR_RGB2GRAY), np.uint8)
    found: dict[Side, list[Warned]] = {side: [] for side in SIDES}
    rows, columns = grey.shape
    boxes: list[tuple[Warned, tuple[float, float, float, float]]] = [
        ("face", (box.x, box.y, box.x + box.width, box.y + box.height)) for box in find_faces(picture)
    ]
    boxes += [
        ("subject", (box.x, box.y, box.x + box.width, box.y + box.height))
        for box in find_subjects(picture)
        if box.width < MOST_OF_WIDTH * columns
    ]
    boxes += [("text", box) for box in _writing(grey)]
    for what, (left, top, right, bottom) in boxes:
        near = (left < NEAR * columns, right > (1 - NEAR) * columns, top < NEAR * rows, bottom > (1 - NEAR) * rows)
        for side, is_near in zip(SIDES, near, strict=True):
            if is_near and what not in found[side]:
                found[side].append(what)
    for side, count in _lines(grey).items():
        if count >= LEAST_LINES:
            found[side].append("lines")
    return {side: tuple(some) for side, some in found.items()}


def _writing(grey: Grey) -> list[tuple[float, float, float, float]]:
    """Rows of marks of one size, as boxes: left, top, right, bottom."""
    rows, columns = grey.shape
    strokes = cv2.morphologyEx(grey, cv2.MORPH_GRADIENT, np.ones((3, 3), np.uint8))
    _, mask = cv2.threshold(strokes, 0, 255, cv2.THRESH_BINARY | cv2.THRESH_OTSU)
    mask[strokes < 60] = 0
    count, _, stats, _ = cv2.connectedComponentsWithStats(mask)
    marks = [
        (int(x), int(y), int(w), int(h))
        for x, y, w, h, area in stats[1:count]
        if 5 <= h <= 0.12 * rows and 0.15 * h <= w <= 1.4 * h and area > 0.2 * w * h
    ]
    marks.sort()
    found, used = [], set()
    for at, (x, y, w, h) in enumerate(marks):
        if at in used:
            continue
        row, right = [at], x + w
        for other in range(at + 1, len(marks)):
            ox, oy, ow, oh = marks[other]
            if ox - right > 1.2 * h:
                break
            alike = abs(oy + oh - y - h) < 0.25 * h and 0.6 < oh / h < 1.6
            if alike and ox >= right - 0.2 * h:
                row.append(other)
                right = ox + ow
        if len(row) >= LETTERS and right - x < 0.9 * columns:
            used |= set(row)
            found.append((float(x), float(y), float(right), float(y + h)))
    return found


def _lines(grey: Grey) -> dict[Side, int]:
    """How many long lines run out over each edge askew."""
    rows, columns = grey.shape
    found = cv2.createLineSegmentDetector(cv2.LSD_REFINE_STD).detect(grey)[0]
    counts: dict[Side, int] = dict.fromkeys(SIDES, 0)
    for x1, y1, x2, y2 in [] if found is None else found.reshape(-1, 4):
        across, down = abs(x2 - x1), abs(y2 - y1)
        if np.hypot(across, down) < LONG * rows:
            continue
        askew_upright = SLANTED[0] < down / max(across, 1e-6) < SLANTED[1]
        askew_level = SLANTED[0] < across / max(down, 1e-6) < SLANTED[1]
        reach = 0.015 * max(rows, columns)
        counts["left"] += bool(min(x1, x2) < reach and askew_upright)
        counts["right"] += bool(max(x1, x2) > columns - reach and askew_upright)
        counts["top"] += bool(min(y1, y2) < reach and askew_level)
        counts["bottom"] += bool(max(y1, y2) > rows - reach and askew_level)
    return counts


def even_bands(grey: Grey) -> dict[Side, bool]:
    """Whether the top of a picture is sky, or as even, and its bottom even ground or water.

    Even is what has the same lightness and texture in every part of it.
    """
    rows = len(grey)
    deep = max(8, rows // 10)
    return {"top": _even(grey[:deep]), "bottom": _even(grey[rows - deep :])}


def _even(band: Grey) -> bool:
    working = band.astype(np.float32)
    texture = working - cv2.GaussianBlur(working, (0, 0), LARGE_SIGMA, borderType=cv2.BORDER_REFLECT)
    strength = np.array([block.std() for block in np.array_split(texture, BLOCKS, axis=1)])
    usual = float(np.median(strength))
    means = np.array([block.mean() for block in np.array_split(working, BLOCKS, axis=1)])
    # A slow change along the band is light or cloud; what jumps from block to block is things.
    jump = float(np.abs(np.diff(means)).max())
    return bool(strength.max() < max(UNEVEN * usual, SMOOTH) and jump < JUMP + usual)
