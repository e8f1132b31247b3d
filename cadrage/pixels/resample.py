"""Drawing a plane at any scale and any sub-pixel position.

Drawing is linear and separable: `drawn = rows · plane · columnsᵀ`, where each matrix has few entries beside its
diagonal. Both are kept as small dense tiles along that diagonal, so that each product is a handful of small matrix
products in float32: exact weights, any phase, one rounding at the end, the same for 8 and 10 bit.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache
from typing import Literal

import cv2
import numpy as np
from numpy.typing import NDArray

from cadrage.pixels.kernels import Kernel
from cadrage.pixels.planes import Samples, Working

# Drawn samples in one tile; measured best with 1920×1080 drawn at 0.56 (narrow tiles waste less of each product).
TILE_ROWS = 12
TILE_COLUMNS = 32
TILES_IN_BLOCK = 13
WEIGHTS_KEPT = 8  # along the direction in which a picture does not move they stay


@dataclass(frozen=True, slots=True)
class Axis:
    """How positions on a drawn plane relate to positions on a source plane, along one direction.

    Positions are in samples of each plane, measured from its edge: the centre of sample n lies at n + 1/2.
    source = start + step * drawn.
    """

    start: Fraction
    step: Fraction

    def source(self, drawn: float) -> float:
        """The source position of a drawn position."""
        return float(self.start) + float(self.step) * drawn


@dataclass(frozen=True, slots=True)
class Tile:
    """Drawn samples `first` to `last` made from source samples `low` to `high`; weights are (last-first, high-low)."""

    first: int
    last: int
    low: int
    high: int
    weights: Working


@lru_cache(maxsize=WEIGHTS_KEPT)
def resampling_weights(
    axis: Axis, drawn: range, size: int, kernel: Kernel, tile: int, beyond: Literal["carry", "mirror"] = "carry"
) -> tuple[Tile, ...]:
    """The weights for drawing a range of samples from a line of `size` source samples.

    Source samples beyond the ends are read as the end sample, so edges are carried outward; or, mirrored, back and
    forth. The weights of every drawn sample sum to one. Tiles count drawn samples from the start of the range.
    """
    centres = axis.source(0) + float(axis.step) * (np.arange(drawn.start, drawn.stop) + 0.5) - 0.5
    taps = int(np.ceil(2 * kernel.reach)) + 1
    indices = np.ceil(centres - kernel.reach).astype(np.int64)[:, None] + np.arange(taps)
    weights = kernel.curve(indices - centres[:, None])
    weights /= weights.sum(axis=1, keepdims=True)
    if beyond == "mirror":
        turn = indices % (2 * size)
        indices = np.minimum(turn, 2 * size - 1 - turn)
    indices = np.clip(indices, 0, size - 1)
    return tuple(_tile(indices[at : at + tile], weights[at : at + tile], at) for at in range(0, len(centres), tile))


def _tile(indices: NDArray[np.int64], weights: NDArray[np.float64], first: int) -> Tile:
    low, high = int(indices.min()), int(indices.max()) + 1
    count, width = len(indices), high - low
    places = indices - low + np.arange(0, count * width, width)[:, None]
    # Beyond an end several weights are those of its one sample, and add up.
    dense = np.bincount(places.ravel(), weights.ravel(), count * width).reshape(count, width)
    return Tile(first, first + count, low, high, dense.astype(np.float32))


class Resampler:
    """Draws planes of one size at one place and scale, all those of one geometry at once.

    Rows are drawn in blocks small enough to stay in the processor's cache until they are used. Holds scratch
    memory: one thread at a time.

    Args:
        rows, columns: tiles of both directions, from `bands`.
        gain: what every sample is multiplied with, for a change of bit depth.
        planes: how many planes are drawn together.
    """

    def __init__(self, rows: Sequence[Tile], columns: Sequence[Tile], gain: float = 1.0, planes: int = 1) -> None:
        tiles = [Tile(t.first, t.last, t.low, t.high, t.weights * np.float32(gain)) for t in rows]
        self.block_tiles = [tiles[at : at + TILES_IN_BLOCK] for at in range(0, len(tiles), TILES_IN_BLOCK)]
        self.left, self.right = min(tile.low for tile in columns), max(tile.high for tile in columns)
        self.columns = [
            (slice(t.first, t.last), slice(t.low - self.left, t.high - self.left), np.ascontiguousarray(t.weights.T))
            for t in columns
        ]
        width = self.right - self.left
        tallest = max(block[-1].last - block[0].first for block in self.block_tiles)
        self._lines = np.empty((max(tile.high - tile.low for tile in tiles), planes, width), np.float32)
        self._half = np.empty((tallest, planes, width), np.float32)
        self._drawn = np.empty((tallest, planes, columns[-1].last), np.float32)
        self.height = rows[-1].last

    def blocks(self, *planes: Samples | Working) -> Iterator[tuple[slice, list[Working]]]:
        """Draw planes, some rows at a time: which rows, and those rows of every plane, in scratch memory."""
        for block in self.block_tiles:
            top, bottom = block[0].first, block[-1].last
            for tile in block:
                self._draw_rows(tile, planes, self._half[tile.first - top : tile.last - top])
            half = self._half[: bottom - top].reshape(-1, self.right - self.left)
            drawn = self._drawn[: bottom - top].reshape(half.shape[0], -1)
            for target, source, weights in self.columns:
                np.matmul(half[:, source], weights, out=drawn[:, target])
            yield slice(top, bottom), [self._drawn[: bottom - top, number] for number in range(len(planes))]

    def draw(self, plane: Samples | Working) -> Working:
        """Draw one plane whole."""
        drawn = np.empty((self.height, self._drawn.shape[2]), np.float32)
        for rows, (part,) in self.blocks(plane):
            drawn[rows] = part
        return drawn

    def _draw_rows(self, tile: Tile, planes: tuple[Samples | Working, ...], target: Working) -> None:
        lines = self._lines[: tile.high - tile.low]
        for number, plane in enumerate(planes):
            np.copyto(lines[:, number], plane[tile.low : tile.high, self.left : self.right])
        np.matmul(tile.weights, lines.reshape(len(lines), -1), out=target.reshape(len(target), -1))


def clip_codes(working: Working, depth: int) -> None:
    """Keep working values, in place, within the codes of a bit depth."""
    np.clip(working, 0, 2**depth - 1, out=working)


def quantise(working: Working, target: Samples, depth: int) -> None:
    """Round working values, which lie within the codes of a bit depth, and write them; `working` is used up."""
    if depth == 8:
        cv2.convertScaleAbs(working, dst=target)
        return
    working += np.float32(0.5)
    np.copyto(target, working, casting="unsafe")
