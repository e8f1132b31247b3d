"""An enlarged, blurred, dimmed copy of the picture itself.

A blurred copy holds no fine detail, so it is worked out on a coarse grid of nodes a quarter of the blur apart and
drawn from there by straight interpolation. Three things widen a step edge: reducing the source, the Gaussian, and
that interpolation. Their variances add, so the Gaussian is made narrower by what the other two contribute.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import sqrt
from typing import ClassVar, Literal

import cv2
import numpy as np
from pydantic import Field

from cadrage.fields import percent, pixels
from cadrage.geometry import FrameRect, Opening, Picture, Placed
from cadrage.geometry.placement import centred, fill_scale
from cadrage.pixels.dither import dither_noise
from cadrage.pixels.kernels import blurring_kernel
from cadrage.pixels.mapping import Area, plane_axes
from cadrage.pixels.planes import Planes, Samples, Working, samples
from cadrage.pixels.resample import (
    TILE_COLUMNS,
    TILE_ROWS,
    Axis,
    Resampler,
    Tile,
    clip_codes,
    quantise,
    resampling_weights,
)
from cadrage.surrounds.base import Areas, FrameState, Scene, WhilePlaced
from cadrage.surrounds.toning import Tone, Toned
from cadrage.values import Exact

# Nodes for one standard deviation: straight lines between nodes this near stay within half a code of the curve.
NODES_PER_SIGMA = 4
# Reduced source samples for one standard deviation: enough that a box of that size is all but hidden by the Gaussian.
SAMPLES_PER_SIGMA = 3
SEED = 8191
FLAT = 0.5  # codes between the lowest and the highest node, within which there are no steps to hide


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
    used_most: ClassVar[tuple[str, ...]] = ("softness", "brightness", "size")
    kind: Literal["blurred"] = "blurred"
    softness: Exact = percent(0, 12, 4, "Blur", 0.1)
    brightness: Exact = percent(0, 150, 60, "Brightness")
    size: Exact = percent(100, 300, 108, "Size")
    stretched: bool = Field(default=False, title="Stretched to the frame")
    mirrored: bool = Field(default=False, title="Mirrored")
    shift_x: Exact = pixels(-4096, 4096, "Shift right")
    shift_y: Exact = pixels(-4096, 4096, "Shift down")

    @property
    def summary(self) -> str:
        """See `Specification`."""
        return "blurred copy, stretched" if self.stretched else "blurred copy"

    def painter(self, scene: Scene) -> "BlurredPainter":
        """See `Specification`."""
        return BlurredPainter(self, scene)

    def copy_rect(self, picture: Picture, opening: Opening) -> FrameRect:
        """Where the copy of the picture lies, in frame pixels; it stays there when the picture moves."""
        if self.stretched:
            return opening.rect.scaled(self.size / 100).moved(self.shift_x, self.shift_y)
        scale = fill_scale(picture, opening) * self.size / 100
        return centred(picture, opening, scale, self.shift_x, self.shift_y)


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
    tiles: Sequence[Tile]

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
        return cls(spacing, reduce, length, resampling_weights(coarse, nodes, length, kernel, tile))

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
        self.blurred = blurred
        self.scene = replace(scene, source=scene.source.mirrored) if blurred.mirrored else scene
        self.planes = WhilePlaced[list[PlanePainter]]()
        self.tones = blurred.tones(scene.canvas)
        self._copied: tuple[FrameRect, list[PlanePainter]] | None = None

    def _planes(self, placed: Placed, areas: Areas) -> "list[PlanePainter]":
        scene = self.scene.placed_as(placed, areas)
        rect = scene.source_rect(self.blurred.copy_rect(placed.picture, scene.opening))
        if self._copied is None or self._copied[0] != rect:
            self._copied = rect, blurring(scene, rect, float(self.blurred.softness))
        return self._copied[1]

    def paint(self, state: FrameState, canvas: Planes) -> None:
        """See `Painter`."""
        shown = state.planes.mirrored() if self.blurred.mirrored else state.planes
        painters = self.planes.of(self._planes, state.placed)
        parts = zip(painters, self.tones, shown.arrays, canvas.arrays, state.areas, strict=True)
        for painter, tone, drawn, target, areas in parts:
            painter.paint(drawn, target, tone, areas)


def blurring(scene: Scene, rect: FrameRect, softness: float) -> "list[PlanePainter]":
    """What draws the scene's source, blurred, plane by plane.

    Args:
        scene: to paint.
        rect: where the source lies, in luma samples of the canvas; its edges are carried outward.
        softness: standard deviation in percent of the frame's height.
    """
    frame, (across, down) = scene.frame, scene.scale
    lines = softness / 100 * frame.height
    sigma = (lines * float(down), lines / float(frame.pixel_aspect) * float(across))
    return [PlanePainter(scene, plane, rect, sigma) for plane in range(3)]


@dataclass(frozen=True, slots=True)
class _Cell:
    """One area: the nodes around it, room for all that is drawn between them, the part of that which is the area, and
    the noise that hides steps there.
    """

    area: Area
    around: tuple[slice, slice]
    room: Working
    part: Working
    noise: Working | None


class PlanePainter:
    """One plane of the copy."""

    def __init__(self, scene: Scene, plane: int, rect: FrameRect, sigma: tuple[float, float]) -> None:
        self.depth, self.constant = scene.canvas.depth, scene.constant
        self.shape, self.seed = scene.canvas.shape(plane), SEED + plane
        by = scene.canvas.subsampling(plane)
        down, across = plane_axes(scene.source, scene.canvas, plane, rect)
        rows, columns = self.shape
        source_rows, source_columns = scene.source.shape(plane)
        self.down = Grid.of(down, sigma[0] / by.down, rows, source_rows, TILE_ROWS)
        self.across = Grid.of(across, sigma[1] / by.across, columns, source_columns, TILE_COLUMNS)
        gain = 2.0 ** (scene.canvas.depth - scene.source.depth)
        self.resampler = Resampler(self.down.tiles, self.across.tiles, gain)
        self.reduced = samples(np.empty((self.down.length, self.across.length), scene.source.dtype))
        # Without noise, 8 bits show steps in a copy this smooth; the same in every frame, so that nothing moves.
        self.smooth = scene.canvas.depth == 8 and (self.down.spacing > 1 or self.across.spacing > 1)
        self._cells: tuple[tuple[Area, ...], list[_Cell]] = ((), [])
        self._noise: Working | None = None

    def paint(self, source: Samples, canvas: Samples, tone: Tone, areas: tuple[Area, ...]) -> None:
        """Paint areas with the source, blurred and toned."""
        if areas:
            nodes = self.nodes(source)
            tone.apply(nodes)
            clip_codes(nodes, self.depth)
            self.spread(nodes, canvas, areas)

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

    def _cells_of(self, areas: tuple[Area, ...]) -> list[_Cell]:
        """Everything needed for areas; kept while they stay."""
        if self._cells[0] != areas:
            noises = self._noises(areas)
            self._cells = areas, [self._cell(area, noise) for area, noise in zip(areas, noises, strict=True)]
        return self._cells[1]

    def _noises(self, areas: tuple[Area, ...]) -> list[Working | None]:
        if not self.smooth:
            return [None] * len(areas)
        random = np.random.default_rng(self.seed)
        if self.constant:
            return [dither_noise(random, (area.bottom - area.top, area.right - area.left)) for area in areas]
        if self._noise is None:
            self._noise = dither_noise(random, self.shape)  # fixed in the frame while areas move over it
        return [self._noise[area.slices] for area in areas]

    def _cell(self, area: Area, noise: Working | None) -> _Cell:
        top, bottom, row = self.down.nodes_for(area.top, area.bottom)
        left, right, column = self.across.nodes_for(area.left, area.right)
        room = np.empty(((bottom - top) * self.down.spacing, (right - left) * self.across.spacing), np.float32)
        part = room[area.top - row : area.bottom - row, area.left - column : area.right - column]
        return _Cell(area, (slice(top, bottom), slice(left, right)), room, part, noise)

    def spread(self, nodes: Working, canvas: Samples, areas: tuple[Area, ...]) -> None:
        """Draw areas between the nodes by straight interpolation."""
        slopes = float(np.ptp(nodes)) > FLAT
        for cell in self._cells_of(areas):
            room, part = cell.room, cell.part
            cv2.resize(nodes[cell.around], room.shape[::-1], dst=room, interpolation=cv2.INTER_LINEAR)
            if slopes and cell.noise is not None:
                cv2.add(part, cell.noise, dst=part)
            quantise(part, canvas[cell.area.slices], self.depth)
