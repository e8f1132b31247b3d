"""Drawing a plane at any scale and any sub-pixel position.

Drawing is linear and separable: `drawn = rows · plane · columnsᵀ`, where each matrix has few entries beside its
diagonal. Both are kept as small dense tiles along that diagonal, so that each product is a handful of small matrix
products in float32: exact weights, any phase, one rounding at the end, the same for 8 and 10 bit.
"""

from dataclasses import dataclass
from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

from cadrage.pixels.kernels import Kernel
from cadrage.pixels.planes import Samples, Working

# Drawn samples in one tile; measured best with 1920×1080 drawn at 0.56 (narrow tiles waste less of each product).
TILE_ROWS = 12
TILE_COLUMNS = 16


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


def bands(axis: Axis, drawn: range, size: int, kernel: Kernel, tile: int) -> list[Tile]:
    """The weights for drawing a range of samples from a line of `size` source samples.

    Source samples beyond the ends are read as the end sample, so edges are carried outward. The weights of every
    drawn sample sum to one. Tiles count drawn samples from the start of the range.
    """
    centres = axis.source(0) + float(axis.step) * (np.arange(drawn.start, drawn.stop) + 0.5) - 0.5
    taps = int(np.ceil(2 * kernel.reach)) + 1
    indices = np.ceil(centres - kernel.reach).astype(np.int64)[:, None] + np.arange(taps)
    weights = kernel.curve(indices - centres[:, None])
    weights /= weights.sum(axis=1, keepdims=True)
    indices = np.clip(indices, 0, size - 1)
    return [_tile(indices[at : at + tile], weights[at : at + tile], at) for at in range(0, len(centres), tile)]


def _tile(indices: NDArray[np.int64], weights: NDArray[np.float64], first: int) -> Tile:
    low, high = int(indices.min()), int(indices.max()) + 1
    dense = np.zeros((len(indices), high - low))
    rows = np.repeat(np.arange(len(indices)), indices.shape[1])
    np.add.at(dense, (rows, (indices - low).ravel()), weights.ravel())
    return Tile(first, first + len(indices), low, high, dense.astype(np.float32))


class Resampler:
    """Draws planes of one size at one place and scale. Holds scratch memory: one thread at a time.

    Args:
        rows, columns: tiles of both directions, from `bands`.
        gain: what every sample is multiplied with, for a change of bit depth.
    """

    def __init__(self, rows: list[Tile], columns: list[Tile], gain: float = 1.0) -> None:
        self.rows = [Tile(t.first, t.last, t.low, t.high, t.weights * np.float32(gain)) for t in rows]
        self.left = min(tile.low for tile in columns)
        right = max(tile.high for tile in columns)
        self.columns = [
            (slice(t.first, t.last), slice(t.low - self.left, t.high - self.left), np.ascontiguousarray(t.weights.T))
            for t in columns
        ]
        self.right = right
        deepest = max(tile.high - tile.low for tile in rows)
        self._lines = np.empty((deepest, right - self.left), np.float32)
        self._half = np.empty((rows[-1].last, right - self.left), np.float32)
        self._drawn = np.empty((rows[-1].last, columns[-1].last), np.float32)

    def draw(self, plane: Samples | Working) -> Working:
        """Draw a plane. The result is scratch memory that the next call writes over."""
        for tile in self.rows:
            lines = self._lines[: tile.high - tile.low]
            np.copyto(lines, plane[tile.low : tile.high, self.left : self.right])
            np.matmul(tile.weights, lines, out=self._half[tile.first : tile.last])
        for drawn, source, weights in self.columns:
            np.matmul(self._half[:, source], weights, out=self._drawn[:, drawn])
        return self._drawn


def settle(working: Working, target: Samples, depth: int) -> None:
    """Round working values to the nearest code of a bit depth and write them; `working` is used up."""
    working += np.float32(0.5)
    np.clip(working, 0, 2**depth - 1, out=working)
    np.copyto(target, working, casting="unsafe")
