"""A clip as it is looked at to see what moves: small, upright, with square pixels, a few pictures a second."""

from dataclasses import dataclass
from fractions import Fraction
from math import ceil, floor, sqrt

import cv2
import numpy as np
from numpy.typing import NDArray

from cadrage.analysis.detectors.faces import Rgb
from cadrage.footage import Interpretation, MediaInfo, resolve
from cadrage.footage.interpretation import Edges
from cadrage.pixels.planes import ROTATIONS, Planes

AREA = 384 * 216
"""Samples of a picture that is looked at, at most."""
EACH = Fraction(4, 25)
"""Seconds from one picture that is looked at to the next."""
GAP = EACH / 2
"""Seconds between two pictures that the camera's movement is measured from."""
Grey = NDArray[np.uint8]
FULL_RANGE_FROM = 16
RED, GREEN_CB, GREEN_CR, BLUE = 1.402, -0.344, -0.714, 1.772
"""ITU-T T.871: near enough for any matrix, for detectors."""


@dataclass(frozen=True, slots=True)
class Scene:
    """What part of a clip's raster is looked at, and in which size.

    Attributes:
        left, top, width, height: of that part, in stored pixels of the upright raster.
        raster: columns and rows of all of the upright raster.
        size: columns and rows that it is looked at in.
        rotation: degrees clockwise from stored to upright.
    """

    left: int
    top: int
    width: int
    height: int
    raster: tuple[int, int]
    size: tuple[int, int]
    rotation: int

    @classmethod
    def of(cls, info: MediaInfo, stated: Interpretation, bars: Edges | None, area: int = AREA) -> "Scene":
        """Of a clip, without bars that are part of its picture; of at most so many samples."""
        plain = stated.model_copy(update={"burned_in_bars": bars, "clean_aperture": None})
        reading = resolve(info, plain)
        rect = reading.picture.rect
        left, top = ceil(rect.x), ceil(rect.y)
        width, height = floor(rect.right) - left, floor(rect.bottom) - top
        across = width * float(reading.picture.pixel_aspect)
        scale = min(1.0, sqrt(area / (across * height)))
        size = max(16, round(across * scale)), max(16, round(height * scale))
        raster = int(reading.raster.width), int(reading.raster.height)
        return cls(left, top, width, height, raster, size, reading.rotation)

    @property
    def part(self) -> tuple[float, float, float, float]:
        """Left, top, width and height in parts of the upright raster."""
        across, down = self.raster
        return self.left / across, self.top / down, self.width / across, self.height / down

    def small(self, planes: Planes) -> Grey:
        """A decoded picture as it is looked at."""
        return self._plane(planes, 0)

    def ycc(self, planes: Planes) -> Grey:
        """The same with its chroma beside every sample: (rows, columns, 3), codes of 8 bits."""
        return np.dstack([self._plane(planes, number) for number in range(3)])

    def colour(self, planes: Planes) -> Rgb:
        """The same in colour."""
        luma, blue, red = (self._plane(planes, number).astype(np.float32) for number in range(3))
        if not planes.layout.colour.full_range:
            luma = (luma - FULL_RANGE_FROM) * np.float32(255 / 219)
        blue, red = blue - 128, red - 128
        parts = (luma + RED * red, luma + GREEN_CB * blue + GREEN_CR * red, luma + BLUE * blue)
        return np.asarray(np.clip(np.stack(parts, axis=-1), 0, 255), np.uint8)

    def _plane(self, planes: Planes, number: int) -> Grey:
        by, shift = planes.layout.subsampling(number).rotated(self.rotation), planes.layout.depth - 8
        stored = planes.arrays[number]
        plane = cv2.rotate(stored, ROTATIONS[self.rotation]) if self.rotation else stored
        right, bottom = self.left + self.width, self.top + self.height
        part = plane[self.top // by.down : -(-bottom // by.down), self.left // by.across : -(-right // by.across)]
        small = np.asarray(cv2.resize(part, self.size, interpolation=cv2.INTER_AREA), np.uint16)
        return np.asarray(small >> max(0, shift), np.uint8)

    def on_raster(self, x: float, y: float) -> tuple[float, float]:
        """A point of a small picture as a part of the upright raster's width and height."""
        return (
            (self.left + x * self.width / self.size[0]) / self.raster[0],
            (self.top + y * self.height / self.size[1]) / self.raster[1],
        )
