"""The picture's own edges carried on: its border drawn outward and growing soft, or the picture mirrored."""

from typing import ClassVar, Literal

import cv2
import numpy as np
from numpy.typing import NDArray

from cadrage.fields import percent
from cadrage.geometry import Placed
from cadrage.pixels.kernels import sampling_kernel
from cadrage.pixels.mapping import Area, plane_axes
from cadrage.pixels.planes import PLANE_GROUPS, Planes, Samples, Working
from cadrage.pixels.resample import TILE_COLUMNS, TILE_ROWS, Resampler, clip_codes, quantise, resampling_weights
from cadrage.surrounds.base import Areas, FrameState, PlacedScene, Scene, WhilePlaced
from cadrage.surrounds.toning import Tone, Toned
from cadrage.values import Exact

SAMPLES_PER_SIGMA = 5
LEVELS = 8  # softnesses worked out between none and the most


class EdgeExtend(Toned):
    """The outermost rows and columns of the picture drawn outward, softer and softer.

    Attributes:
        softness: standard deviation of the blur along the edge at the frame's border, in percent of the frame's height.
    """

    title: ClassVar[str] = "Stretched edges"
    kind: Literal["carried"] = "carried"
    brightness: Exact = percent(0, 150, 80, "Brightness")
    softness: Exact = percent(0, 20, 5, "Blur", 0.1)

    @property
    def summary(self) -> str:
        """See `Specification`."""
        return "stretched edges"

    def painter(self, scene: Scene) -> "EdgeExtendPainter":
        """See `Specification`."""
        return EdgeExtendPainter(self, scene)


class Mirrored(Toned):
    """The picture mirrored at its own edges, again and again as far as the frame reaches."""

    title: ClassVar[str] = "Mirrored"
    kind: Literal["mirrored"] = "mirrored"
    brightness: Exact = percent(0, 150, 70, "Brightness")

    @property
    def summary(self) -> str:
        """See `Specification`."""
        return "mirrored picture"

    def painter(self, scene: Scene) -> "MirroredPainter":
        """See `Specification`."""
        return MirroredPainter(self, scene)


class EdgeExtendPainter:
    """Paints each area beside the picture from one line of the picture's border."""

    def __init__(self, carried: EdgeExtend, scene: Scene) -> None:
        self.carried, self.scene = carried, scene
        self.depth = scene.canvas.depth
        self.tones = carried.tones(scene.canvas)
        self.sides = WhilePlaced[list[list[_Side]]]()

    def _sides(self, placed: Placed, areas: Areas) -> "list[list[_Side]]":
        scene, frame = self.scene.placed_as(placed, areas), self.scene.frame
        lines = float(self.carried.softness) / 100 * frame.height
        across, down = scene.scale
        sides: list[list[_Side]] = []
        for plane in range(3):
            by = scene.canvas.subsampling(plane)
            sigma = (
                lines * float(down) / by.down,
                lines / float(frame.pixel_aspect) * float(across) / by.across,
            )
            sides.append([_Side(scene, plane, area, sigma) for area in areas[plane]])
        return sides

    def paint(self, state: FrameState, canvas: Planes) -> None:
        """See `Painter`."""
        for plane, sides in enumerate(self.sides.of(self._sides, state.placed, state.areas)):
            for side in sides:
                drawn = side.draw(state.planes.arrays[plane], self.tones[plane])
                quantise(drawn, canvas.arrays[plane][side.area.slices], self.depth)


class _Side:
    """One area: the border line nearest to it, blurred along itself ever more with the distance from the picture."""

    def __init__(self, scene: PlacedScene, plane: int, area: Area, sigma: tuple[float, float]) -> None:
        self.area, self.depth = area, scene.canvas.depth
        rect = scene.on_canvas(scene.placed.rect)
        by = scene.canvas.subsampling(plane)
        low_x, high_x = float((rect.x - by.shift_x) / by.across), float((rect.right - by.shift_x) / by.across)
        low_y, high_y = float((rect.y - by.shift_y) / by.down), float((rect.bottom - by.shift_y) / by.down)
        rows, columns = np.arange(area.top, area.bottom) + 0.5, np.arange(area.left, area.right) + 0.5
        beyond_rows = np.maximum(np.maximum(low_y - rows, rows - high_y), 0)
        beyond_columns = np.maximum(np.maximum(low_x - columns, columns - high_x), 0)
        self.upright = bool(beyond_columns.max(initial=0) > beyond_rows.max(initial=0))
        distance = beyond_columns if self.upright else beyond_rows
        self.sigma = sigma[0] if self.upright else sigma[1]
        self.weights = _weights(distance)
        self._prepare(scene, plane)

    def _prepare(self, scene: PlacedScene, plane: int) -> None:
        """A resampler that draws the area's nearest border: one line of it is enough."""
        area, source = self.area, scene.source
        down, across = plane_axes(source, scene.canvas, plane, scene.source_rect(scene.placed.rect))
        rows, columns = source.shape(plane)
        drawn_rows = range(area.top, area.bottom) if self.upright else _one(area.top, area.bottom)
        drawn_columns = _one(area.left, area.right) if self.upright else range(area.left, area.right)
        self.resampler = Resampler(
            resampling_weights(down, drawn_rows, rows, sampling_kernel(float(down.step)), TILE_ROWS),
            resampling_weights(across, drawn_columns, columns, sampling_kernel(float(across.step)), TILE_COLUMNS),
            gain=2.0 ** (scene.canvas.depth - source.depth),
        )

    def draw(self, plane: Samples, tone: Tone) -> Working:
        """The area: (rows, columns). Toned and kept within its codes as a line, which mixing does not undo."""
        line = self.resampler.draw(plane).ravel()
        tone.apply(line)
        clip_codes(line, self.depth)
        softened = np.stack([_blurred(line, self.sigma * level / (LEVELS - 1)) for level in range(LEVELS)])
        drawn = softened.T @ self.weights if self.upright else self.weights.T @ softened
        whole: Working = np.ascontiguousarray(drawn)
        return whole


def _one(first: int, last: int) -> range:
    """One line of a range: the one nearest to the picture does as well as any, since edges are carried outward."""
    return range(first, first + 1) if first == 0 else range(last - 1, last)


def _weights(distance: NDArray[np.float64]) -> Working:
    """How much of each softness every line has, by its distance from the picture: (levels, lines)."""
    part = distance / max(distance.max(initial=0), 1e-6) * (LEVELS - 1)
    weights = np.maximum(0, 1 - np.abs(part[None, :] - np.arange(LEVELS)[:, None]))
    made: Working = weights.astype(np.float32)
    return made


def _blurred(line: NDArray[np.float32], sigma: float) -> NDArray[np.float32]:
    """A line blurred; far at reduced length, which widens the blur by less than a hundredth of itself."""
    if sigma < 0.1:
        return line
    reduce = max(1, int(sigma / SAMPLES_PER_SIGMA))
    short = line[None, :]
    if reduce > 1:
        short = np.asarray(cv2.resize(short, (-(-line.size // reduce), 1), interpolation=cv2.INTER_AREA))
    blurred = cv2.GaussianBlur(short, (0, 0), sigmaX=sigma / reduce, sigmaY=1e-6, borderType=cv2.BORDER_REPLICATE)
    if reduce > 1:
        blurred = cv2.resize(blurred, (line.size, 1), interpolation=cv2.INTER_LINEAR)
    made: NDArray[np.float32] = np.asarray(blurred, np.float32)[0]
    return made


class MirroredPainter:
    """Draws the areas from the picture, read back and forth."""

    def __init__(self, mirrored: Mirrored, scene: Scene) -> None:
        self.scene, self.depth = scene, scene.canvas.depth
        self.tones = mirrored.tones(scene.canvas)
        self.parts = WhilePlaced[list[tuple[tuple[int, ...], Area, Resampler]]]()

    def _parts(self, placed: Placed, areas: Areas) -> list[tuple[tuple[int, ...], Area, Resampler]]:
        scene = self.scene.placed_as(placed, areas)
        return [
            (planes, area, _back_and_forth(scene, planes, area)) for planes in PLANE_GROUPS for area in areas[planes[0]]
        ]

    def paint(self, state: FrameState, canvas: Planes) -> None:
        """See `Painter`."""
        for planes, area, resampler in self.parts.of(self._parts, state.placed, state.areas):
            targets = [canvas.arrays[plane][area.slices] for plane in planes]
            for rows, drawn in resampler.blocks(*(state.planes.arrays[plane] for plane in planes)):
                for plane, target, working in zip(planes, targets, drawn, strict=True):
                    self.tones[plane].apply(working)
                    clip_codes(working, self.depth)
                    quantise(working, target[rows], self.depth)


def _back_and_forth(scene: PlacedScene, planes: tuple[int, ...], area: Area) -> Resampler:
    """Draws an area of planes that lie alike from the picture, mirrored at its edges."""
    down, across = plane_axes(scene.source, scene.canvas, planes[0], scene.source_rect(scene.placed.rect))
    rows, columns = scene.source.shape(planes[0])
    return Resampler(
        resampling_weights(
            down, range(area.top, area.bottom), rows, sampling_kernel(float(down.step)), TILE_ROWS, "mirror"
        ),
        resampling_weights(
            across, range(area.left, area.right), columns, sampling_kernel(float(across.step)), TILE_COLUMNS, "mirror"
        ),
        gain=2.0 ** (scene.canvas.depth - scene.source.depth),
        planes=len(planes),
    )
