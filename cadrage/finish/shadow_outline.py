"""What is laid on the surround under the picture: its shadow, and its outline."""

from math import cos, radians, sin

import cv2
import numpy as np

from cadrage.finish.shape import Outline
from cadrage.finish.specification import Finish
from cadrage.geometry import Placed
from cadrage.pixels.blend import Layer
from cadrage.pixels.light import codes_of
from cadrage.pixels.mapping import Area, touched
from cadrage.pixels.planes import Layout, Planes, Working
from cadrage.surrounds.base import Areas, FrameState, WhilePlaced


class ShadowOutline:
    """Lays shadow and outline on what is painted; worked out while a placement stands.

    Args:
        finish: what is wanted.
        canvas: what is painted on.
    """

    def __init__(self, finish: Finish, canvas: Layout) -> None:
        self.finish, self.canvas = finish, canvas
        self.off = finish.shadow.off and not finish.edge.outline
        self.layers = WhilePlaced[list[list[Layer]]]()

    def paint(self, state: FrameState, canvas: Planes) -> None:
        """Lay them on."""
        if self.off:
            return
        of_planes = self.layers.of(self._layers, state.placed, state.areas)
        for layers, plane in zip(of_planes, canvas.arrays, strict=True):
            for layer in layers:
                layer.blend(plane, self.canvas.depth)

    def _layers(self, placed: Placed, areas: Areas) -> list[list[Layer]]:
        return [_layers(self.finish, placed, self.canvas, plane, areas[plane]) for plane in range(3)]


def _layers(finish: Finish, placed: Placed, canvas: Layout, plane: int, areas: tuple[Area, ...]) -> list[Layer]:
    rows, columns = canvas.shape(plane)
    area = Area(0, rows, 0, columns)
    outline = Outline.of(placed, placed.rect, canvas, plane)
    gain, offset = np.ones((rows, columns), np.float32), np.zeros((rows, columns), np.float32)
    radius = float(finish.edge.corners) / 100 * float(placed.rect.height)

    def lay(share: Working, colour: str) -> None:
        nonlocal gain, offset
        code = np.float32(codes_of(colour, canvas.colour, canvas.depth)[plane])
        gain, offset = gain * (1 - share), offset * (1 - share) + code * share

    if not finish.shadow.off:
        lay(_shadow(finish, placed, outline, area, radius), finish.shadow.colour)
    if finish.edge.outline:
        wider = float(finish.edge.outline) * float(placed.frame.pixel_aspect) ** 0.5
        lay(outline.covered(area, radius + wider, wider), finish.edge.colour)
    parts = [touched(gain < 1, part) for part in areas]
    return [
        Layer(part, np.ascontiguousarray(gain[part.slices]), np.ascontiguousarray(offset[part.slices]))
        for part in parts
        if not part.empty
    ]


def _shadow(finish: Finish, placed: Placed, outline: Outline, area: Area, radius: float) -> Working:
    """How dark the shadow is on every sample, 0 to 1."""
    shadow, height = finish.shadow, placed.frame.height
    away = float(shadow.distance) / 100 * height
    moved = outline.moved(away * cos(radians(float(shadow.direction))), away * sin(radians(float(shadow.direction))))
    share = moved.covered(area, radius)
    sigma = float(shadow.softness) / 100 * height
    if sigma > 0:
        sigmas = sigma / outline.sample[0], sigma / outline.sample[1]
        share = _softened(moved, area, radius, share, sigmas)
    share *= np.float32(float(shadow.opacity) / 100)
    return share


def _softened(moved: Outline, area: Area, radius: float, share: Working, sigmas: tuple[float, float]) -> Working:
    """The share blurred; beyond the canvas the shadow's own shape goes on, which no border rule would know."""
    pad_x, pad_y = int(3 * sigmas[0]) + 2, int(3 * sigmas[1]) + 2
    around = Area(area.top - pad_y, area.bottom + pad_y, area.left - pad_x, area.right + pad_x)
    whole = moved.covered(around, radius)
    blurred = cv2.GaussianBlur(whole, (0, 0), sigmaX=max(sigmas[0], 1e-3), sigmaY=max(sigmas[1], 1e-3))
    rows, columns = share.shape
    part: Working = np.ascontiguousarray(blurred[pad_y : pad_y + rows, pad_x : pad_x + columns], np.float32)
    return part
