"""The plate made as light, picture by picture, as the live picture is along the edges where they meet.

Along each edge the two are compared in blocks; what differs much is somebody who passes and does not count; what is
left is smoothed along the edge and multiplies the plate's codes above black. Flicker and slow drifts of exposure are
met so, and light that changes at one end of the edge only.
"""

from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from cadrage.extend.camera import for_opencv, then
from cadrage.extend.plate import Plate
from cadrage.extend.request import SIDES, Side
from cadrage.geometry import Placed
from cadrage.pixels.mapping import Area
from cadrage.pixels.planes import Planes, Samples, Working
from cadrage.surrounds.base import FrameState, Scene

BLOCKS = 40
DEEP = 4
"""Blocks along an edge, and samples of each across it."""
PASSING = 0.12
"""Gains that differ so much from most along an edge are of something that passes."""
SMOOTH = 2.0
"""Standard deviation along the edge, in blocks."""
DARKEST = 6.0
"""Codes of 8 bits above black: darker blocks give no information about the light."""
MOST = 1.5
SAME = 0.0035
"""Gains that are nearer to 1 are measured noise: less than half a code of any but the lightest."""
Matrix = NDArray[np.float64]
Places = NDArray[np.floating]


class EdgeLight:
    """Compares a plate with live pictures.

    Args:
        scene: to paint for.
        plate: the plate.
        planes: of it, in the canvas's colour.
        sides: along which it is compared.
        deep: how far into the picture, in parts of its height.
    """

    def __init__(self, scene: Scene, plate: Plate, planes: Planes, sides: frozenset[Side], deep: float) -> None:
        self.scene, self.plate = scene, plate
        self.sides = [side for side in SIDES if side in sides]
        self.deep = deep
        self.black = float(scene.canvas.colour.code_range(8)[0])
        shrink = max(1, plate.about.picture_height // 360)
        luma = planes.arrays[0].astype(np.float32) * np.float32(2.0 ** (8 - planes.layout.depth))
        size = max(1, luma.shape[1] // shrink), max(1, luma.shape[0] // shrink)
        cut = luma[: size[1] * shrink, : size[0] * shrink]
        self.small = np.asarray(cv2.resize(cut, size, interpolation=cv2.INTER_AREA), np.float32)
        self.shrink = shrink
        self._of_plate: tuple[bytes, dict[Side, Working]] | None = None

    def gains(self, state: FrameState, place: Matrix) -> dict[Side, Working] | None:
        """What the plate's codes above black are multiplied with, block by block along each edge; None where the light
        is the plate's.
        """
        luma = state.planes.arrays[0]
        scale = np.float32(2.0 ** (8 - state.planes.layout.depth))
        seen = self._plate_blocks(place)
        made = {
            side: _smooth_gain(self._live_blocks(luma, side) * scale - self.black, seen[side] - self.black)
            for side in self.sides
        }
        return None if all(np.abs(gain - 1).max() < SAME for gain in made.values()) else made

    def origin(self, plane: int) -> float:
        """The code that light multiplies from."""
        depth = self.scene.canvas.depth
        return float(2.0 ** (depth - 1) if plane else self.black * 2.0 ** (depth - 8))

    def field(self, area: Area, plane: int, placed: Placed, gains: dict[Side, Working]) -> Working:
        """What the codes of a part of the plate are multiplied with: of its shape, or to be spread over it."""
        by = self.scene.canvas.subsampling(plane)
        rect = self.scene.on_canvas(placed.rect)
        x = (np.arange(area.left, area.right) + 0.5) * by.across + float(by.shift_x)
        y = (np.arange(area.top, area.bottom) + 0.5) * by.down + float(by.shift_y)
        return _field((x - float(rect.x)) / float(rect.width), (y - float(rect.y)) / float(rect.height), gains)

    def _live_blocks(self, luma: Samples, side: Side) -> Working:
        """The strip of the picture along a side, in blocks: (blocks, deep), outermost first."""
        (rows, columns), about = luma.shape, self.plate.about
        high = max(2, round(self.deep * rows))
        wide = max(2, round(self.deep * about.picture_height * columns / about.picture_width))
        parts: dict[Side, NDArray[Any]] = {
            "left": luma[:, :wide],
            "right": luma[:, columns - wide :][:, ::-1],
            "top": luma[:high].T,
            "bottom": luma[rows - high :][::-1].T,
        }
        strip = np.ascontiguousarray(parts[side], np.float32)  # else its means would be rounded
        return np.asarray(cv2.resize(strip, (DEEP, BLOCKS), interpolation=cv2.INTER_AREA), np.float32)

    def _plate_blocks(self, place: Matrix) -> dict[Side, Working]:
        """The same of the plate."""
        key = place.tobytes()
        if self._of_plate is None or self._of_plate[0] != key:
            self._of_plate = (key, {side: self._plate_strip(side, place) for side in self.sides})
        return self._of_plate[1]

    def _plate_strip(self, side: Side, place: Matrix) -> Working:
        about = self.plate.about
        wide, tall = about.picture_width, about.picture_height
        thick = self.deep * tall
        along, deep = (tall, wide) if side in ("left", "right") else (wide, tall)
        fine = 3  # samples of each block, averaged after
        step_deep, step_along = thick / (DEEP * fine), along / (BLOCKS * fine)
        # From a sample (deep, along) of the strip to a pixel of the picture.
        outward = side in ("right", "bottom")
        first, sign = (deep, -1) if outward else (0, 1)
        if side in ("left", "right"):
            matrix = np.array([[sign * step_deep, 0, first], [0, step_along, 0]], np.float64)
        else:
            matrix = np.array([[0, step_along, 0], [sign * step_deep, 0, first]], np.float64)
        whole = for_opencv(then(matrix, place) / self.shrink)
        flags = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
        size = (DEEP * fine, BLOCKS * fine)
        drawn = cv2.warpAffine(self.small, whole, size, flags=flags, borderMode=cv2.BORDER_REPLICATE)
        return np.asarray(cv2.resize(drawn, (DEEP, BLOCKS), interpolation=cv2.INTER_AREA), np.float32)


def _smooth_gain(live: Working, plate: Working) -> Working:
    """One gain for each block along an edge."""
    told = (live > DARKEST) & (plate > DARKEST)
    if told.sum() < BLOCKS // 4:
        return np.ones(BLOCKS, np.float32)
    ratio = np.where(told, live / np.maximum(plate, 1e-3), 1.0)
    most = float(np.median(ratio[told]))
    weight = (told & (np.abs(ratio / most - 1) < PASSING)).astype(np.float32) * np.maximum(plate, 0)
    sums = np.stack([(ratio * weight).sum(axis=1), weight.sum(axis=1)], axis=1).astype(np.float32)
    sums += np.array([most, 1], np.float32) * np.float32(0.02 * max(float(sums[:, 1].mean()), 1e-3))
    spread = cv2.GaussianBlur(sums, (1, 0), sigmaX=0, sigmaY=SMOOTH, borderType=cv2.BORDER_REFLECT)
    gain = np.clip(spread[:, 0] / spread[:, 1], 1 / MOST, MOST)
    return np.asarray(gain, np.float32)


def _field(across: Places, down: Places, gains: dict[Side, Working]) -> Working:
    """Gains over an area, whose samples are given in parts of the picture's width and height.

    Beside the picture they are those of its nearer upright edge; above and below those of its nearer level edge.
    """
    middles = (np.arange(BLOCKS) + 0.5) / BLOCKS
    upright = {side: np.interp(down, middles, gains[side]) for side in ("left", "right") if side in gains}
    level = {side: np.interp(across, middles, gains[side]) for side in ("top", "bottom") if side in gains}
    if upright and not level:
        return _two(across, upright.get("left"), upright.get("right"))
    if level and not upright:
        return _two(down, level.get("top"), level.get("bottom")).T
    beside, above = (
        _two(across, upright.get("left"), upright.get("right")),
        _two(down, level.get("top"), level.get("bottom")).T,
    )
    out = np.maximum(np.maximum(-across, across - 1), 0)[None, :]
    up = np.maximum(np.maximum(-down, down - 1), 0)[:, None]
    share = np.where(out + up > 0, out / np.maximum(out + up, 1e-9), np.where(_nearer(across, down), 1.0, 0.0))
    return np.asarray(above + (beside - above) * share, np.float32)


def _nearer(across: Places, down: Places) -> NDArray[np.bool_]:
    """Whether a sample inside the picture is nearer to an upright edge than to a level one."""
    to_upright = np.minimum(np.abs(across), np.abs(1 - across))[None, :]
    to_level = np.minimum(np.abs(down), np.abs(1 - down))[:, None]
    return np.asarray(to_upright <= to_level)


def _two(along: Places, low: Places | None, high: Places | None) -> Working:
    """For each place across, the gains of the nearer of two edges: (along the edges, across), or (along the edges, 1)
    where that is one of them for all.
    """
    one = low if low is not None else high
    other = high if high is not None else low
    assert one is not None
    assert other is not None
    first = along < 0.5
    if first.all() or not first.any():
        return np.asarray((one if first.all() else other)[:, None], np.float32)
    return np.asarray(np.where(first[None, :], one[:, None], other[:, None]), np.float32)
