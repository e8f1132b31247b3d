"""Drawing smooth-edged shapes at sub-pixel places, on rasters of any pixel shape."""

from collections.abc import Sequence

import cv2
import numpy as np
from numpy.typing import NDArray

Colour = tuple[int, int, int]
Point = tuple[float, float]
Image = NDArray[np.uint8]

FRACTION_BITS = 6
CIRCLE_POINTS = 120


def hexed(text: str) -> Colour:
    """A colour such as "#2E5C4E" as R'G'B' of 0 to 255."""
    digits = text.removeprefix("#")
    return int(digits[:2], 16), int(digits[2:4], 16), int(digits[4:], 16)


class Pen:
    """Draws on an R'G'B' image. Shapes are given in square units, so circles are true on any raster.

    Args:
        image: rows, columns, 3; drawn in place.
        across, down: stored pixels for one unit in each direction.
        origin: unit coordinates of the image's upper left corner.
    """

    def __init__(self, image: Image, across: float, down: float, origin: Point = (0.0, 0.0)) -> None:
        self.image = image
        self.scale = np.array([across, down])
        self.origin = np.array(origin)

    def moved(self, x: float, y: float, scale: float = 1.0) -> "Pen":
        """A pen whose units start at (x, y) of this one's and are `scale` times as large."""
        across, down = self.scale
        at = self.origin - np.array([x, y])
        pen = Pen(self.image, across * scale, down * scale)
        pen.origin = at / scale
        return pen

    def shape(self, points: Sequence[Point] | NDArray[np.float64], colour: Colour) -> None:
        """A filled polygon."""
        # OpenCV counts from the centre of the first pixel, these units from its corner.
        stored = (np.asarray(points) - self.origin) * self.scale - 0.5
        fixed = np.round(stored * 2**FRACTION_BITS).astype(np.int32)
        cv2.fillPoly(self.image, [fixed], colour, cv2.LINE_AA, FRACTION_BITS)

    def box(self, x: float, y: float, width: float, height: float, colour: Colour, corner: float = 0.0) -> None:
        """A filled rectangle, its corners rounded."""
        if not corner:
            self.shape([(x, y), (x + width, y), (x + width, y + height), (x, y + height)], colour)
            return
        turns = np.linspace(0, np.pi / 2, 12)
        points = []
        for quarter, (cx, cy) in enumerate(
            [
                (x + width - corner, y + height - corner),
                (x + corner, y + height - corner),
                (x + corner, y + corner),
                (x + width - corner, y + corner),
            ]
        ):
            angles = turns + quarter * np.pi / 2
            points += list(zip(cx + corner * np.cos(angles), cy + corner * np.sin(angles), strict=True))
        self.shape(points, colour)

    def disc(self, x: float, y: float, radius: float, colour: Colour) -> None:
        """A filled circle."""
        angles = np.linspace(0, 2 * np.pi, CIRCLE_POINTS, endpoint=False)
        self.shape(np.stack([x + radius * np.cos(angles), y + radius * np.sin(angles)], axis=1), colour)

    def line(self, start: Point, end: Point, width: float, colour: Colour) -> None:
        """A straight line with blunt ends."""
        along = np.array(end, float) - np.array(start, float)
        beside = np.array([-along[1], along[0]]) / max(1e-9, float(np.hypot(*along))) * width / 2
        first, second = np.array(start), np.array(end)
        self.shape(np.array([first + beside, second + beside, second - beside, first - beside]), colour)
