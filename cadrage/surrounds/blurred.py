"""An enlarged, blurred, dimmed copy of the picture itself.

A blurred copy holds no fine detail, so it is worked out on a coarse grid of nodes a quarter of the blur apart and
drawn from there by straight interpolation. Three things widen a step edge: reducing the source, the Gaussian, and
that interpolation. Their variances add, so the Gaussian is made narrower by what the other two contribute.
"""

from dataclasses import dataclass, replace
from fractions import Fraction
from math import sqrt
from typing import ClassVar, Literal

import cv2
import numpy as np
from pydantic import Field

from cadrage.fields import percent, pixels
from cadrage.geometry import FrameRect
from cadrage.geometry.placement import centred, fill_scale
from cadrage.pixels.kernels import blurring_kernel
from cadrage.pixels.mapping import Area, plane_axes
from cadrage.pixels.planes import Planes, Samples, Working, samples
from cadrage.pixels.resample import TILE_COLUMNS, TILE_ROWS, Axis, Resampler, Tile, bands, limit, settle
from cadrage.surrounds.base import Scene
from cadrage.surrounds.toning import Tone, Toned

# Nodes for one standard deviation: straight lines between nodes this near stay within half a code of the curve.
NODES_PER_SIGMA = 4
# Reduced source samples for one standard deviation: enough that a box of that size is all but hidden by the Gaussian.
SAMPLES_PER_SIGMA = 3


class Blurred(Toned):
    """A copy of the picture, enlarged until it covers the frame, blurred and dimmed.

    Attributes:
        softness: standard deviation of the Gaussian, in percent of the frame's height.
        size: percent of the size that just covers the frame.
        stretched: whether the copy, never the picture, is distorted to the frame's shape.
        mirrored: whether the copy's left and right change places.
        shift_x, shift_y: how far the copy is moved right and down, in frame pixels.
    """

    title: ClassVar[str] = "Blurred copy"
    kind: Literal["blurred"] = "blurred"
    softness: float = percent(0, 12, 4, "Softness", 0.1)
    brightness: float = percent(0, 150, 60, "Brightness")
    size: float = percent(100, 300, 108, "Size")
    stretched: bool = Field(default=False, title="Stretched to the frame")
    mirrored: bool = Field(default=False, title="Mirrored")
    shift_x: float = pixels(-4096, 4096, "Shift right")
    shift_y: float = pixels(-4096, 4096, "Shift down")

    @property
    def words(self) -> str:
        """See `Specification`."""
        return "blurred copy, stretched" if self.stretched else "blurred copy"

    def painter(self, scene: Scene) -> "BlurredPainter":
        """See `Specification`."""
        return BlurredPainter(self, scene)

    def copy_rect(self, scene: Scene) -> FrameRect:
        """Where the copy of the picture lies, in frame pixels."""
        picture, opening = scene.placed.picture, scene.opening
        size, x, y = (Fraction(str(number)) for number in (self.size, self.shift_x, self.shift_y))
        if self.stretched:
            return opening.rect.scaled(size / 100).moved(x, y)
        return centred(picture, opening, fill_scale(picture, opening) * size / 100, x, y)


@dataclass(frozen=True, slots=True)
class Grid:
    """One direction of one plane: how the source is reduced, and the nodes that are worked out from it.

    Attributes:
        spacing: canvas samples from node to node; node n lies at spacing * (n + 1/2), and the first is n = -1.
        reduce: source samples averaged into one.
        length: reduced source samples, and one more at either end where anything is reduced: the end sample itself,
            since that, and no mean, is what is carried outward.
        tiles: weights from reduced samples to nodes.
    """

    spacing: int
    reduce: int
    length: int
    tiles: list[Tile]

    @classmethod
    def of(cls, axis: Axis, sigma: float, drawn: int, size: int, tile: int) -> "Grid":
        """Choose a grid for blurring `size` source samples into `drawn` canvas samples.

        Args:
            axis: from canvas samples to source samples.
            sigma: standard deviation in canvas samples.
            drawn: canvas samples.
            size: source samples.
            tile: nodes in one tile of weights.
        """
        step = float(axis.step)
        spacing = max(1, int(sigma / NODES_PER_SIGMA))
        reduce = _divisor(size, max(1, int(sigma * step / SAMPLES_PER_SIGMA)))
        variance = (sigma * step) ** 2
        variance -= (reduce**2 - 1) / 12  # of a box over `reduce` samples
        if spacing > 1:
            variance -= (spacing * step) ** 2 / 6  # of straight interpolation between nodes
        kernel = blurring_kernel(step / reduce, sqrt(max(0.0, variance)) / reduce)
        nodes = range(-1, -(-drawn // spacing) + 1)
        length = -(-size // reduce) + 2
        coarse = Axis(axis.start / reduce + 1, axis.step * spacing / reduce)
        return cls(spacing, reduce, length, bands(coarse, nodes, length, kernel, tile))

    def nodes_for(self, low: int, high: int) -> tuple[int, int, int]:
        """The nodes around canvas samples low to high, and the canvas sample at which the first one's cell starts.

        Nodes are counted as they lie in memory, from the one at n = -1.
        """
        first = low // self.spacing
        return first, -(-high // self.spacing) + 2, (first - 1) * self.spacing


def _divisor(size: int, wanted: int) -> int:
    """A whole block size near below the wanted one that divides a length, which saves padding it; else as wanted."""
    near = range(wanted, wanted * 2 // 3, -1)
    return next((length for length in near if size % length == 0), wanted)


def _average(source: Samples, target: Samples) -> None:
    """Average whole blocks of the source into the target."""
    np.copyto(target, cv2.resize(source, target.shape[::-1], interpolation=cv2.INTER_AREA).reshape(target.shape))


class BlurredPainter:
    """Paints the copy from a coarse grid."""

    def __init__(self, blurred: Blurred, scene: Scene) -> None:
        self.mirrored = blurred.mirrored
        if self.mirrored:
            scene = replace(scene, source=scene.source.mirrored)
        rect = scene.source_rect(blurred.copy_rect(scene))
        self.planes = blurring(scene, rect, blurred.softness)
        self.tones = blurred.tones(scene.canvas)

    def paint(self, source: Planes, canvas: Planes, time: Fraction) -> None:
        """See `Painter`."""
        del time
        shown = source.mirrored() if self.mirrored else source
        for painter, tone, drawn, target in zip(self.planes, self.tones, shown.arrays, canvas.arrays, strict=True):
            painter.paint(drawn, target, tone)


def blurring(scene: Scene, rect: FrameRect, softness: float) -> "list[PlanePainter]":
    """What draws the scene's source, blurred, plane by plane.

    Args:
        scene: its areas are painted.
        rect: where the source lies, in luma samples of the canvas; its edges are carried outward.
        softness: standard deviation in percent of the frame's height.
    """
    frame, (across, down) = scene.placed.frame, scene.scale
    lines = softness / 100 * frame.height
    sigma = (lines * float(down), lines / float(frame.pixel_aspect) * float(across))
    return [PlanePainter(scene, plane, rect, sigma) for plane in range(3)]


class PlanePainter:
    """One plane of the copy."""

    def __init__(self, scene: Scene, plane: int, rect: FrameRect, sigma: tuple[float, float]) -> None:
        self.areas: tuple[Area, ...] = scene.areas[plane]
        self.depth = scene.canvas.depth
        by = scene.canvas.subsampling(plane)
        down, across = plane_axes(scene.source, scene.canvas, plane, rect)
        rows, columns = scene.canvas.shape(plane)
        source_rows, source_columns = scene.source.shape(plane)
        self.down = Grid.of(down, sigma[0] / by.down, rows, source_rows, TILE_ROWS)
        self.across = Grid.of(across, sigma[1] / by.across, columns, source_columns, TILE_COLUMNS)
        gain = 2.0 ** (scene.canvas.depth - scene.source.depth)
        self.resampler = Resampler(self.down.tiles, self.across.tiles, gain)
        self.reduced = samples(np.empty((self.down.length, self.across.length), scene.source.dtype))
        self.cells = [self._cells(area) for area in self.areas]

    def paint(self, source: Samples, canvas: Samples, tone: Tone) -> None:
        """Paint the areas with the source, blurred and toned."""
        if self.areas:
            nodes = self.nodes(source)
            tone.apply(nodes)
            limit(nodes, self.depth)
            self.spread(nodes, canvas)

    def nodes(self, plane: Samples) -> Working:
        """The blurred copy at every node, in codes of the canvas. Scratch memory."""
        return self.resampler.draw(self._reduce(plane))

    def _reduce(self, plane: Samples) -> Samples:
        """The source averaged over whole blocks, framed by its own outermost samples."""
        reduced = self.reduced
        inner = (reduced.shape[1] - 2, reduced.shape[0] - 2)
        ends = (inner[0] * self.across.reduce, inner[1] * self.down.reduce)
        below, right = ends[1] - plane.shape[0], ends[0] - plane.shape[1]
        if below or right:  # the last block is filled with the last sample
            plane = cv2.copyMakeBorder(plane, 0, below, 0, right, cv2.BORDER_REPLICATE)  # type: ignore[assignment]
        _average(plane, reduced[1:-1, 1:-1])
        _average(plane[:1], reduced[:1, 1:-1])
        _average(plane[-1:], reduced[-1:, 1:-1])
        _average(plane[:, :1], reduced[1:-1, :1])
        _average(plane[:, -1:], reduced[1:-1, -1:])
        reduced[:: reduced.shape[0] - 1, :: reduced.shape[1] - 1] = plane[:: len(plane) - 1, :: plane.shape[1] - 1]
        return reduced

    def _cells(self, area: Area) -> tuple[tuple[slice, slice], Working, Working]:
        """The nodes around an area, room for all that is drawn between them, and the part of it that is the area."""
        top, bottom, row = self.down.nodes_for(area.top, area.bottom)
        left, right, column = self.across.nodes_for(area.left, area.right)
        room = np.empty(((bottom - top) * self.down.spacing, (right - left) * self.across.spacing), np.float32)
        part = room[area.top - row : area.bottom - row, area.left - column : area.right - column]
        return (slice(top, bottom), slice(left, right)), room, part

    def spread(self, nodes: Working, canvas: Samples) -> None:
        """Draw the areas between the nodes by straight interpolation."""
        for area, (around, room, part) in zip(self.areas, self.cells, strict=True):
            cv2.resize(nodes[around], room.shape[::-1], dst=room, interpolation=cv2.INTER_LINEAR)
            settle(part, canvas[area.slices], self.depth)
