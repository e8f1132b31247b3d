"""Drawing parts of a plate where they lie on a canvas, to a part of a pixel."""

from math import cos, radians, sin
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from cadrage.extend.camera import for_opencv, then
from cadrage.extend.plate import NOWHERE, Plate
from cadrage.geometry import Placed
from cadrage.pixels.colour import Colour
from cadrage.pixels.convert import ColourChange
from cadrage.pixels.mapping import Area
from cadrage.pixels.planes import Planes, Working
from cadrage.pixels.relight import LightChange
from cadrage.surrounds.base import Scene

Matrix = NDArray[np.float64]


def in_colour(planes: Planes, colour: Colour) -> Planes:
    """Planes whose samples mean what is wanted."""
    own = planes.layout.colour
    if colour.relit_from(own):
        return LightChange(planes.layout, colour).apply(planes)
    return ColourChange(planes.layout, colour).apply(planes) if colour.recoded_from(own) else planes


class PlateDrawing:
    """Draws a plate.

    Args:
        scene: what it is drawn for.
        plate: what is drawn.

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
        self._small: dict[tuple[int, int, int], NDArray[np.float32]] = {}
        self._whole = bool((plate.origin != NOWHERE).all())

    def draw(
        self, plane: int, area: Area, placed: Placed, place: Matrix, *, fine: bool = True
    ) -> tuple[Working, NDArray[np.bool_] | None]:
        """A part of a plane of the canvas.

        Args:
            plane: 0 luma, 1 and 2 chroma.
            area: of that plane.
            placed: where the picture lies.
            place: from pixels of the picture as it is seen, at the plate's scale, to those of the plate.
            fine: whether it is drawn for many pictures, as well as can be; or for one, quickly.

        Returns:
            Its samples; and which of them the plate reaches, None where all.
        """
        by = self.scene.canvas.subsampling(plane)
        to_plate = self._to_plate(placed, place)
        # A sample of the plane to a place in luma samples of the canvas, then to the plate.
        sample = np.array([[by.across, 0, float(by.shift_x)], [0, by.down, float(by.shift_y)]])
        sample[:, 2] += sample[:, :2] @ [area.left, area.top]
        matrix = then(sample, to_plate)
        across, down = (max(1, int(np.hypot(*matrix[:, axis]))) for axis in (0, 1))
        source = self._at_most(plane, across, down)
        matrix = then(matrix, np.array([[1 / across, 0, 0], [0, 1 / down, 0]]))
        size = area.right - area.left, area.bottom - area.top
        covered = self._covered(matrix, size, source.shape[:2])
        if fine:
            return _warped(source, matrix, size, cv2.INTER_LANCZOS4), covered
        quick = _warped(self._as_stored(plane, source, across, down), matrix, size, cv2.INTER_CUBIC)
        gain = np.float32(2.0 ** (self.scene.canvas.depth - self.planes.layout.depth))
        return (quick if gain == 1 else quick * gain), covered

    def _at_most(self, plane: int, across: int, down: int) -> NDArray[np.float32]:
        """A plane of the plate so many times smaller, its samples on the canvas's scale."""
        key = (plane, across, down)
        if key not in self._small:
            array = self.planes.arrays[plane].astype(np.float32)
            if across > 1 or down > 1:
                size = max(1, array.shape[1] // across), max(1, array.shape[0] // down)
                cut = array[: size[1] * down, : size[0] * across]
                array = np.asarray(cv2.resize(cut, size, interpolation=cv2.INTER_AREA), np.float32)
            array *= np.float32(2.0 ** (self.scene.canvas.depth - self.planes.layout.depth))
            self._small[key] = array
        return self._small[key]

    def _as_stored(self, plane: int, source: NDArray[np.float32], across: int, down: int) -> NDArray[Any]:
        """A plane of the plate as it is stored, which is drawn quickly; one that is used smaller as it is used."""
        if across > 1 or down > 1:
            return source * np.float32(2.0 ** (self.planes.layout.depth - self.scene.canvas.depth))
        return self.planes.arrays[plane]

    def _to_plate(self, placed: Placed, place: Matrix) -> Matrix:
        """From luma samples of the canvas to pixels of the plate."""
        scene, about = self.scene, self.plate.about
        rect = scene.on_canvas(placed.spread(placed.rect, scene.held))
        whole = scene.on_canvas(placed.rect)
        middle = np.array([float(whole.x + whole.width / 2), float(whole.y + whole.height / 2)])
        turned = then(np.hstack([np.eye(2), -middle[:, None]]), self._turned_back(placed))
        turned[:, 2] += middle
        across, down = about.picture_width / float(rect.width), about.picture_height / float(rect.height)
        on_picture = np.array([[across, 0, -across * float(rect.x)], [0, down, -down * float(rect.y)]])
        return then(then(turned, on_picture), place)

    def _turned_back(self, placed: Placed) -> Matrix:
        angle, pixel = radians(-float(placed.angle)), self.scene.pixel_aspect
        linear = np.array([[cos(angle), -sin(angle) / pixel], [sin(angle) * pixel, cos(angle)]])
        return np.hstack([linear, np.zeros((2, 1))])

    def _covered(self, matrix: Matrix, size: tuple[int, int], shape: tuple[int, int]) -> NDArray[np.bool_] | None:
        """Which samples lie on the plate; None where all do."""
        corners = np.array([[0, 0, 1], [size[0], 0, 1], [0, size[1], 1], [size[0], size[1], 1]], np.float64) @ matrix.T
        edge = 0.51
        inside = (corners >= -edge).all() and (corners[:, 0] <= shape[1] + edge).all()
        if self._whole and inside and (corners[:, 1] <= shape[0] + edge).all():
            return None
        there = np.asarray((self.plate.origin != NOWHERE).astype(np.uint8))
        small = cv2.resize(there, (shape[1], shape[0]), interpolation=cv2.INTER_NEAREST)
        flags = cv2.INTER_NEAREST | cv2.WARP_INVERSE_MAP
        drawn = cv2.warpAffine(small, for_opencv(matrix), size, flags=flags, borderValue=0)
        return np.asarray(drawn > 0)


def _warped(source: NDArray[Any], matrix: Matrix, size: tuple[int, int], kernel: int) -> Working:
    """What an area of the canvas shows; beyond the plate its edges go on."""
    flags = kernel | cv2.WARP_INVERSE_MAP
    drawn = cv2.warpAffine(source, for_opencv(matrix), size, flags=flags, borderMode=cv2.BORDER_REPLICATE)
    return np.asarray(drawn, np.float32)
