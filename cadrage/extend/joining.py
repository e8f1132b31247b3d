"""Letting what is made up begin exactly where the picture ends.

The columns next to the edge are the picture's mirror image, so that every line meets itself; a seam of least difference
(Efros and Freeman 2001) leads from it to what was made up, and the difference that is left along the seam is spread
outward (a screened membrane, after Pérez, Gangnet and Blake 2003).
"""

import cv2
import numpy as np
from numpy.typing import NDArray

Working = NDArray[np.float32]
SLIVER = 0.012
"""Of the height: columns that are the mirror image at least."""
SEAM = 0.05
"""Of the height: columns within which the seam lies."""
SPREAD = 0.12
"""Of the height: the distance in which a difference at the seam fades to a third."""
LOW_PASS = 0.03
"""Of the height: differences along the seam that are shorter are texture."""
TEXTURE = 20.0
"""Codes: differences that are larger are of an object, and stay."""
SOFT = 1.5
"""Columns over which one fades into the other at the seam."""


def joined_to_mirror(picture: Working, made: Working) -> Working:
    """What was made up, begun as the mirror image."""
    rows, columns = made.shape[:2]
    locked = max(2, round(SLIVER * rows))
    wide = min(max(locked + 4, round(SEAM * rows)), columns, picture.shape[1])
    if wide <= locked:
        return np.ascontiguousarray(picture[:, ::-1][:, :columns])
    mirror = np.ascontiguousarray(picture[:, ::-1][:, :wide])
    seam = _seam(mirror, made[:, :wide], locked)
    place = np.arange(columns, dtype=np.float32)
    share = 1 / (1 + np.exp(np.clip((place[None, :] - seam[:, None]) / SOFT, -30, 30)))
    steps = np.stack([mirror[row, at] - made[row, at] for row, at in enumerate(seam)])
    offset = _low_passed(steps, LOW_PASS * rows)[:, None]
    fade = np.exp(-np.maximum(place[None, :] - seam[:, None], 0) / (SPREAD * rows)).astype(np.float32)
    result = made + np.asarray(offset * fade[..., None], np.float32)
    kept = np.where(place < locked, 1, share)[:, :wide, None].astype(np.float32)
    result[:, :wide] = mirror * kept + result[:, :wide] * (1 - kept)
    return np.asarray(np.clip(result, 0, 255), np.float32)


def _low_passed(offset: Working, sigma: float) -> Working:
    """Differences along a seam without what is only texture, or an object that ends there."""
    trust = np.exp(-(offset**2).sum(axis=-1, keepdims=True) / (2 * TEXTURE**2)) + np.float32(1e-3)
    both = np.concatenate([offset * trust, trust], axis=-1)
    spread = cv2.GaussianBlur(both, (1, 0), sigmaX=0, sigmaY=max(1.0, sigma), borderType=cv2.BORDER_REFLECT)
    return np.asarray(spread[:, :-1] / spread[:, -1:], np.float32)


def _seam(mirror: Working, made: Working, locked: int) -> NDArray[np.int64]:
    """The column at which each row leaves the mirror image: where the two differ least, one column a row at most."""
    apart = ((mirror - made) ** 2).sum(axis=-1)
    apart = cv2.blur(apart, (3, 3))
    apart[:, :locked] = np.float32(1e9)
    rows = len(apart)
    total = apart.astype(np.float64)
    for row in range(1, rows):
        above = total[row - 1]
        left = np.concatenate([[np.inf], above[:-1]])
        right = np.concatenate([above[1:], [np.inf]])
        total[row] += np.minimum(above, np.minimum(left, right))
    seam = np.empty(rows, np.int64)
    seam[-1] = int(total[-1].argmin())
    for row in range(rows - 2, -1, -1):
        low = max(0, seam[row + 1] - 1)
        seam[row] = low + int(total[row, low : seam[row + 1] + 2].argmin())
    return seam
