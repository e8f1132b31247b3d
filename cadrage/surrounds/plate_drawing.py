"""Drawing parts of a plate where they lie on a canvas, to a part of a pixel."""

from math import cos, radians, sin

import numpy as np
from numpy.typing import NDArray

from cadrage.extend.camera import then
from cadrage.extend.plate import NOWHERE, Plate
from cadrage.geometry import Placed
from cadrage.pixels.colour import Colour
from cadrage.pixels.convert import ColourChange
from cadrage.pixels.mapping import Area
from cadrage.pixels.planes import Planes, Working
from cadrage.pixels.relight import LightChange
from cadrage.surrounds.base import Scene
from cadrage.surrounds.plate_sampling import PlateSampling

Matrix = NDArray[np.float64]
LEVELS = 2**0.5
"""Sizes in which a plate is kept while the picture grows or shrinks: each so many times the next."""


def in_colour(planes: Planes, colour: Colour) -> Planes:
    """Planes whose samples have the wanted meaning."""
    own = planes.layout.colour
    if colour.relit_from(own):
        return LightChange(planes.layout, colour).apply(planes)
    return ColourChange(planes.layout, colour).apply(planes) if colour.recoded_from(own) else planes


class PlateDrawing:
    """Draws a plate.

    Args:
        scene: to draw for.
        plate: to draw.

    Attributes:
        planes: the plate in the canvas's colour.
        scale: luma samples of the canvas for a pixel of the plate, about.
    """

    def __init__(self, scene: Scene, plate: Plate) -> None:
        self.scene, self.plate = scene, plate
        self.planes = in_colour(plate.planes, scene.canvas.colour)
        typical = scene.taken(None)  # all that the picture takes, at its largest
        rect = scene.on_canvas(typical)
        self.scale = float(max(rect.width, rect.height)) / max(plate.about.picture_width, plate.about.picture_height)
        gain = 2.0 ** (scene.canvas.depth - self.planes.layout.depth)
        self.sampling = PlateSampling(tuple(self.planes.arrays), gain, plate.origin != NOWHERE)

    def draw(
        self, plane: int, area: Area, placed: Placed, place: Matrix, *, stays: bool = True
    ) -> tuple[Working, NDArray[np.bool_] | None]:
        """A part of a plane of the canvas.

        Args:
            plane: 0 luma, 1 and 2 chroma.
            area: of that plane.
            placed: where the picture lies.
            place: from pixels of the picture as it is seen, at the plate's scale, to those of the plate.
            stays: whether it is drawn for many pictures, as well as can be; or for one, quickly.

        Returns:
            Its samples; and which of them the plate reaches, None where all.
        """
        by = self.scene.canvas.subsampling(plane)
        on_picture = self._on_picture(placed)
        # A sample of the plane to a place in luma samples of the canvas, then to the plate.
        sample = np.array([[by.across, 0, float(by.shift_x)], [0, by.down, float(by.shift_y)]])
        sample[:, 2] += sample[:, :2] @ [area.left, area.top]
        matrix = then(then(then(sample, self._upright(placed)), on_picture), place)
        size = area.right - area.left, area.bottom - area.top
        covered = self.sampling.covered(matrix, size)
        if stays:
            return self.sampling.once(plane, matrix, size), covered
        steps = self._about(on_picture[0, 0] * by.across), self._about(on_picture[1, 1] * by.down)
        return self.sampling.often(plane, matrix, size, steps), covered

    def _about(self, step: float) -> float:
        """A step that a picture is drawn with; a near one while it changes, for which the plate need not be kept."""
        return step if self.scene.constant else float(LEVELS ** np.floor(np.log(step) / np.log(LEVELS)))

    def _on_picture(self, placed: Placed) -> Matrix:
        """From luma samples of the canvas, turned upright about the picture's middle, to pixels of the picture."""
        about, rect = self.plate.about, self.scene.on_canvas(placed.spread(placed.rect, self.scene.held))
        across, down = about.picture_width / float(rect.width), about.picture_height / float(rect.height)
        return np.array([[across, 0, -across * float(rect.x)], [0, down, -down * float(rect.y)]])

    def _upright(self, placed: Placed) -> Matrix:
        """Luma samples of the canvas turned about the picture's middle until that stands upright."""
        whole = self.scene.on_canvas(placed.rect)
        middle = np.array([float(whole.x + whole.width / 2), float(whole.y + whole.height / 2)])
        angle, pixel = radians(-float(placed.angle)), self.scene.pixel_aspect
        linear = np.array([[cos(angle), -sin(angle) / pixel], [sin(angle) * pixel, cos(angle)]])
        return np.hstack([linear, (middle - linear @ middle)[:, None]])
