"""Where a flat bar ends and the picture begins, along one side of a picture.

Lines are counted inward from the side. Each is cut into blocks along its length, and each block is compared, at every
moment looked at, with the bar's own level and noise, which the outermost lines tell. A block that has once been clearly
different belongs to the picture, or to something laid over the bar: a logo, a subtitle. Those never fill a line from
end to end, as the picture does at one moment or another. So dark scenes need not be told from bars one by one.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

BLOCKS = 24
OUTER = 2  # lines that tell the bar's level
PICTURE_SHARE = 0.85  # of the blocks that a line of picture fills at one moment or another
FLAT_SHARE = 0.2
LEAST_MEAN, LEAST_SPREAD = 2.0, 2.5  # codes of 8 bits; what compression leaves of a flat bar
FAINTEST_STEP = 5.0  # codes of 8 bits between bar and picture
SHARP = 0.3  # of the contrast a few lines further in that an edge must reach at once
NEAR = 9  # lines in which the step is looked for
FEWEST_BARE = 0.2  # of the blocks along an edge must have nothing over them, to judge by these alone (tried out)
BAND_BEHIND = 6  # lines of a bar behind a band of something else, below which it is taken for picture (tried out)
DEEPEST = 0.46  # of the whole: two bars leave something between them

Stats = NDArray[np.float32]


@dataclass(frozen=True, slots=True)
class Blocks:
    """Mean and spread of every block of every line at every moment: (moments, lines, blocks), codes of 8 bits."""

    mean: Stats
    spread: Stats
    length: int

    @classmethod
    def of(cls, lumas: list[NDArray[np.uint8]]) -> "Blocks":
        """Cut the rows of some pictures into blocks."""
        rows, columns = lumas[0].shape
        length = columns // BLOCKS
        shape = (rows, BLOCKS, length)
        mean, spread = np.empty((2, len(lumas), rows, BLOCKS), np.float32)
        for moment, luma in enumerate(lumas):
            blocks = luma[:, : BLOCKS * length].reshape(shape).astype(np.float32)
            mean[moment] = blocks.mean(axis=2)
            spread[moment] = blocks.std(axis=2)
        return cls(mean, spread, length)

    def reversed(self) -> "Blocks":
        """The same, counted from the opposite side."""
        return Blocks(self.mean[:, ::-1], self.spread[:, ::-1], self.length)

    def at(self, moment: int) -> "Blocks":
        """One moment alone."""
        return Blocks(self.mean[moment : moment + 1], self.spread[moment : moment + 1], self.length)


@dataclass(frozen=True, slots=True)
class Side:
    """A bar along one side.

    Attributes:
        width: lines; 0 where there is none.
        level: the bar's luma, codes of 8 bits.
        confidence: 0 to 1.
    """

    width: int
    level: float
    confidence: float


NO_BAR = Side(0, 0.0, 1.0)


def is_flat(blocks: Blocks, side: Side) -> bool:
    """Whether lines as wide as a bar are flat at its level, but for what may lie over it."""
    if side.width == 0:
        return True
    lines = slice(0, max(1, side.width - 1))
    away = np.abs(blocks.mean[:, lines] - side.level)
    noise = float(np.median(blocks.spread[:, lines]))
    different = (away > _least_mean(noise, blocks.length)) | (blocks.spread[:, lines] > _least_spread(noise))
    return bool(different.mean() <= FLAT_SHARE)


def _least_mean(noise: float, length: int) -> float:
    """How far a block's mean must be from the bar's level to be something else."""
    return float(max(LEAST_MEAN, 4 * noise / np.sqrt(length)))


def _least_spread(noise: float) -> float:
    """How much a block must vary within itself to be something else."""
    return max(LEAST_SPREAD, 1.5 * noise + 1)


def side_of(blocks: Blocks) -> Side:
    """The bar along the side at which the lines begin."""
    level = float(np.median(blocks.mean[:, :OUTER]))
    noise = float(np.median(blocks.spread[:, :OUTER]))
    least_mean = _least_mean(noise, blocks.length)
    away = np.abs(blocks.mean - level)
    different = (away > least_mean) | (blocks.spread > _least_spread(noise))
    often = 2 if len(different) >= 8 else 1
    filled = different.sum(axis=0) >= often
    width = _first_picture_line(filled.mean(axis=1))
    if width == 0:
        return NO_BAR
    # What a line shows at its brightest: the mean of its strongest twentieth.
    bare = _bare(filled, width)
    contrast = _strongest((away + np.maximum(0, blocks.spread - noise))[:, :, bare])
    return _judged(width, level, contrast, least_mean)


def _bare(filled: NDArray[np.bool_], width: int) -> NDArray[np.bool_]:
    """The blocks over which nothing lies near the edge of a bar; all where there are too few of them.

    What is laid over both bar and picture, as subtitles are, would hide the step between them.
    """
    near = filled[max(0, width - NEAR) : max(1, width - 1)]
    bare: NDArray[np.bool_] = np.logical_not(near.any(axis=0))
    return bare if bare.mean() >= FEWEST_BARE else np.ones_like(bare)


def _first_picture_line(share: NDArray[np.float64]) -> int:
    """The first line of picture; 0 where no bar comes before it."""
    lines = len(share)
    usual = float(np.percentile(share[lines // 4 : -(lines // 4)], 90))
    if usual <= 0:
        return 0
    filled = share / usual
    if filled[:OUTER].max() > FLAT_SHARE:
        return 0
    deepest = int(lines * DEEPEST)
    full = filled >= PICTURE_SHARE
    steady = np.flatnonzero(full[:-2] & full[1:-1] & full[2:])
    if steady.size and steady[0] <= deepest:
        return _behind_band(filled, int(steady[0]), deepest)
    # A picture that never fills a line: it begins after the last flat one.
    flat = np.flatnonzero(filled[: deepest + 1] <= FLAT_SHARE)
    return int(flat[-1]) + 1 if flat.size and flat[-1] < deepest else 0


def _behind_band(filled: NDArray[np.float64], line: int, deepest: int) -> int:
    """The first line of picture behind a band that lies in a bar and fills it from end to end, as tickers do.

    A bar goes on behind one; so what is behind must be flat again for as many lines as tell a bar from a dark place.
    """
    behind = filled[line : deepest + 1] <= FLAT_SHARE
    flat = np.flatnonzero(np.convolve(behind, np.ones(BAND_BEHIND), "valid") == BAND_BEHIND)
    if not flat.size:
        return line
    again = line + int(flat[0])
    full = np.flatnonzero(filled[again:] >= PICTURE_SHARE)
    return _behind_band(filled, again + int(full[0]), deepest) if full.size and again + full[0] <= deepest else line


def _strongest(values: Stats) -> NDArray[np.float64]:
    flat = values.transpose(1, 0, 2).reshape(values.shape[1], -1)
    count = max(1, flat.shape[1] // 20)
    top: NDArray[np.float64] = np.partition(flat, -count, axis=1)[:, -count:].mean(axis=1, dtype=np.float64)
    return top


def _judged(width: int, level: float, contrast: NDArray[np.float64], least: float) -> Side:
    """Settle on the line where the step is, and on how sure that is; a gradual darkening towards the side is no bar.

    What compression leaves in the bar beside the picture may have been met a few lines too early.
    """
    near = contrast[width - 1 : width + NEAR]
    steps = near[1:] - near[:-1]
    if steps.size < 2:
        return NO_BAR
    # A step may be spread over two lines, where the edge falls between them.
    double = steps + np.append(steps[1:], 0)
    at = int(double.argmax())
    edge = width + at + int(steps[at] < SHARP * double[at])
    picture = float(np.median(contrast[edge + 1 : edge + NEAR]))
    if picture < FAINTEST_STEP + least or double[at] < SHARP * picture:
        return NO_BAR
    sharpness = min(1.0, float(double[at]) / picture)
    return Side(edge, level, round(sharpness * picture / (picture + 2 * least), 3))
