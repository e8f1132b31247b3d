"""The picture's outline on a plane of the canvas: how far every sample lies inside it."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from cadrage.geometry import FrameRect, Placed
from cadrage.pixels.mapping import Area
from cadrage.pixels.planes import Layout, Working

Lines = NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class Outline:
    """A rectangle, turned about its middle, on one plane.

    Lengths are frame lines, with the true shape of the frame's pixels, so that a corner is round whatever they are.

    Attributes:
        middle: its centre, in frame lines from the frame's corner.
        half: half its sides.
        cos, sin: of the angle that it is turned by.
        sample: sides of one sample of the plane.
        first: where the centre of the plane's first sample lies.
    """

    middle: tuple[float, float]
    half: tuple[float, float]
    cos: float
    sin: float
    sample: tuple[float, float]
    first: tuple[float, float]

    @classmethod
    def of(cls, placed: Placed, rect: FrameRect, canvas: Layout, plane: int) -> "Outline":
        """The outline of a picture that lands on a rectangle of the frame."""
        frame, by = placed.frame, canvas.subsampling(plane)
        pixel = float(frame.pixel_aspect)
        luma = (pixel * frame.width / canvas.width, frame.height / canvas.height)
        return cls(
            middle=(float(rect.x + rect.width / 2) * pixel, float(rect.y + rect.height / 2)),
            half=(float(rect.width) * pixel / 2, float(rect.height) / 2),
            cos=float(placed.turn.cos),
            sin=float(placed.turn.sin),
            sample=(luma[0] * by.across, luma[1] * by.down),
            first=(
                luma[0] * (by.across / 2 + float(by.shift_x)),
                luma[1] * (by.down / 2 + float(by.shift_y)),
            ),
        )

    def moved(self, across: float, down: float) -> "Outline":
        """The same elsewhere."""
        middle = (self.middle[0] + across, self.middle[1] + down)
        return Outline(middle, self.half, self.cos, self.sin, self.sample, self.first)

    def straight(self, area: Area) -> tuple[Lines, Lines]:
        """Every sample of an area, turned back, from the middle: across and down."""
        x = self.first[0] + np.arange(area.left, area.right) * self.sample[0] - self.middle[0]
        y = self.first[1] + np.arange(area.top, area.bottom) * self.sample[1] - self.middle[1]
        across = x[None, :] * self.cos + y[:, None] * self.sin
        down = y[:, None] * self.cos - x[None, :] * self.sin
        return across, down

    def inside(self, area: Area, radius: float = 0) -> Lines:
        """How far samples lie inside the outline with rounded corners; negative outside. Signed distance."""
        across, down = self.straight(area)
        radius = min(radius, *self.half)
        x, y = np.abs(across) - self.half[0] + radius, np.abs(down) - self.half[1] + radius
        distance: Lines = np.hypot(np.maximum(x, 0), np.maximum(y, 0)) + np.minimum(np.maximum(x, y), 0) - radius
        return -distance

    def covered(self, area: Area, radius: float = 0, wider: float = 0) -> Working:
        """How much of each sample the outline covers, 0 to 1, when it is so much wider on every side."""
        sample = (self.sample[0] + self.sample[1]) / 2
        shares: Working = np.clip((self.inside(area, radius) + wider) / sample + 0.5, 0, 1).astype(np.float32)
        return shares
