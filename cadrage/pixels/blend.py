"""Changing samples where they lie: code · gain + offset, rounded and kept within the codes of the depth."""

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from cadrage.pixels.mapping import Area
from cadrage.pixels.planes import Planes, Samples, Working, samples
from cadrage.pixels.resample import clip_codes, quantise

Table = NDArray[np.float32]


@dataclass(frozen=True, slots=True)
class Layer:
    """What is done to one area of a plane: code · gain + offset."""

    area: Area
    gain: Working
    offset: Working

    def blend(self, plane: Samples, depth: int, opacity: float = 1.0) -> None:
        """Do it, as strong as is said, 0 to 1."""
        gain, offset = self.gain, self.offset
        if opacity < 1:
            gain, offset = 1 - np.float32(opacity) * (1 - gain), np.float32(opacity) * offset
        gained(plane[self.area.slices], gain, offset, depth)


def gained(plane: Samples, gain: Working, offset: Working, depth: int) -> None:
    """Multiply and add, sample by sample, in place."""
    if depth == 8:
        shaded = cv2.multiply(plane, gain, dtype=cv2.CV_32F)
        cv2.add(shaded, offset, dst=plane, dtype=cv2.CV_8U)  # rounds and keeps within 0 to 255
        return
    working: Working = plane * gain
    working += offset
    clip_codes(working, depth)
    quantise(working, plane, depth)


def added(plane: Samples, offset: Working, depth: int) -> None:
    """Add, sample by sample, in place."""
    if depth == 8:
        cv2.add(plane, offset, dst=plane, dtype=cv2.CV_8U)
        return
    working: Working = plane + offset
    clip_codes(working, depth)
    quantise(working, plane, depth)


def looked_up(plane: Samples, table: Table, depth: int) -> None:
    """Give every code what a table has for it, in place; the table has an entry for each code of the depth."""
    codes = samples(np.clip(np.rint(table), 0, 2**depth - 1).astype(plane.dtype))
    if depth == 8:
        cv2.LUT(plane, codes, dst=plane)
    else:
        np.copyto(plane, codes[plane])


def mixed(one: Planes, other: Planes, share: float) -> Planes:
    """Two pictures of one layout mixed, the second with a share of 0 to 1."""
    pairs = zip(one.arrays, other.arrays, strict=True)
    y, cb, cr = (samples(cv2.addWeighted(first, 1 - share, second, share, 0)) for first, second in pairs)
    return Planes((y, cb, cr), one.layout)
