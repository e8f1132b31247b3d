"""Finding, for every small patch of an area that is made up, one of the real picture that it is like.

PatchMatch (Barnes, Shechtman, Finkelstein, Goldman 2009), all patches at once: whole fields of candidates are compared
instead of one patch after another, so that the work is a few large array operations. Patches are compared as short
vectors, their first principal components, as in Korman and Avidan's and He and Sun's nearest-neighbour fields.
"""

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

Working = NDArray[np.float32]
Places = NDArray[np.int32]
RADIUS = 3
SIDE = 2 * RADIUS + 1
COMPONENTS = 24
CHROMA_WEIGHT, GRADIENT_WEIGHT = 1.3, 1.5
"""Of chroma and of slopes against luma; our own trials on photographs."""
TRAINING = 6000
"""Patches that the components are found by."""
BLOCK_PATCHES = 8000
"""Patches that are laid out at a time."""
HEIGHT_FRACTION = 0.08
"""Of the height: how far above or below its own place a patch may be taken from."""
ANOTHER_HEIGHT = 1.5
"""What the difference of a patch from the farthest height is multiplied with, more than 1: horizons stay level."""
SHUNNED = 2.5
"""What the difference of a patch that would only mirror the picture on is multiplied with."""
USED_OFTEN = 0.35
"""Of the usual difference: what a patch that is used twice as often as the mean costs (Kaspar et al. 2015)."""


def channels(picture: Working) -> Working:
    """What patches are compared in: luma, both chroma, and the slopes of luma across and down.

    Args:
        picture: Y′CbCr codes of 8 bits, (rows, columns, 3).
    """
    luma = picture[..., 0]
    across = cv2.Sobel(luma, cv2.CV_32F, 1, 0, ksize=1, scale=0.5 * GRADIENT_WEIGHT, borderType=cv2.BORDER_REFLECT)
    down = cv2.Sobel(luma, cv2.CV_32F, 0, 1, ksize=1, scale=0.5 * GRADIENT_WEIGHT, borderType=cv2.BORDER_REFLECT)
    parts = (luma, picture[..., 1] * CHROMA_WEIGHT, picture[..., 2] * CHROMA_WEIGHT, across, down)
    return np.stack(parts, axis=-1).astype(np.float32)


def patches_at(stacked: Working, rows: Places, columns: Places) -> Working:
    """Patches about some places, which lie at least a radius inside: (places, samples)."""
    windows = np.lib.stride_tricks.sliding_window_view(stacked, (SIDE, SIDE), axis=(0, 1))
    return windows[rows - RADIUS, columns - RADIUS].reshape(len(rows), -1)


def described(stacked: Working, basis: Working) -> Working:
    """The components of the patch about every place: (rows - 2 radii, columns - 2 radii, components)."""
    windows = np.lib.stride_tricks.sliding_window_view(stacked, (SIDE, SIDE), axis=(0, 1))
    rows, columns = windows.shape[:2]
    made = np.empty((rows, columns, basis.shape[1]), np.float32)
    block = max(1, BLOCK_PATCHES // columns)
    for top in range(0, rows, block):
        part = windows[top : top + block].reshape(-1, basis.shape[0])
        np.matmul(part, basis, out=made[top : top + block].reshape(len(part), -1))
    return made


def basis_of(stacked: Working, random: np.random.Generator) -> Working:
    """The first principal components of a picture's patches: (samples of a patch, components)."""
    rows, columns = stacked.shape[:2]
    count = min(TRAINING, (rows - SIDE) * (columns - SIDE))
    at = random.integers(0, rows - 2 * RADIUS, count) + RADIUS, random.integers(0, columns - 2 * RADIUS, count) + RADIUS
    found = patches_at(stacked, at[0].astype(np.int32), at[1].astype(np.int32)).astype(np.float64)
    found -= found.mean(axis=0)
    _, vectors = np.linalg.eigh(found.T @ found)
    return np.ascontiguousarray(vectors[:, ::-1][:, :COMPONENTS], np.float32)


@dataclass
class Sources:
    """The pictures that patches are taken from, at one size, side by side.

    Attributes:
        picture: the samples, (rows, columns, 3).
        descriptors: of the patch about every place that has a whole one, in one row after another.
        usable: columns, of those of the descriptors, that patches may be taken from.
        basis: what describes them.
    """

    picture: Working
    descriptors: Working
    usable: Places
    basis: Working

    @classmethod
    def of(
        cls,
        picture: Working,
        random: np.random.Generator,
        excluded: NDArray[np.bool_] | None = None,
        *,
        described_too: bool = True,
    ) -> "Sources":
        """A picture and its mirror image.

        Args:
            picture: (rows, columns, 3).
            random: what is chosen by chance.
            excluded: places of the picture that may not be copied.
            described_too: whether patches will be looked for in it.
        """
        both = np.concatenate([picture, picture[:, ::-1]], axis=1)
        if described_too:
            stacked = channels(both)
            basis = basis_of(stacked, random)
            descriptors = described(stacked, basis)
        else:
            basis = np.zeros((0, 0), np.float32)
            descriptors = np.zeros((both.shape[0] - 2 * RADIUS, both.shape[1] - 2 * RADIUS, 0), np.float32)
        columns = picture.shape[1]
        inner = np.arange(columns - 2 * RADIUS)
        usable = np.concatenate([inner, inner + columns]).astype(np.int32)
        if described_too and excluded is not None and excluded.any():
            mask = np.concatenate([excluded, excluded[:, ::-1]], axis=1).astype(np.uint8)
            grown = cv2.dilate(mask, np.ones((SIDE, SIDE), np.uint8))[RADIUS:-RADIUS, RADIUS:-RADIUS]
            descriptors[grown > 0] = np.float32(1e4)
        return cls(both, descriptors, usable, basis)


class Field:
    """Where each patch of an area is taken from.

    Args:
        sources: what it is taken from.
        rows, columns: of the area's patches, in places of descriptors.

    Attributes:
        down, across: the place of each.
        shunned: for each column, the one that would only mirror the picture on; none is shunned where it is negative.
    """

    def __init__(self, sources: Sources, rows: int, columns: int) -> None:
        self.sources = sources
        self.shape = (rows, columns)
        self.height = sources.descriptors.shape[0]
        self._flat = (
            sources.descriptors.reshape(self.height * sources.descriptors.shape[1], -1)
            if sources.descriptors.size
            else sources.descriptors
        )
        self.reach = max(2, round(HEIGHT_FRACTION * self.height))
        self.down = np.zeros((rows, columns), np.int32)
        self.across = np.zeros((rows, columns), np.int32)
        self.shunned: Places | None = None
        self._rows = np.arange(rows, dtype=np.int32)[:, None]
        self._rank = np.zeros(sources.descriptors.shape[1] + 1, np.int32)
        self._rank[:-1] = np.searchsorted(sources.usable, np.arange(sources.descriptors.shape[1]))

    def hold(self, down: Places, across: Places) -> tuple[Places, Places]:
        """Places brought to where patches may be taken from."""
        low, high = np.maximum(self._rows - self.reach, 0), np.minimum(self._rows + self.reach, self.height - 1)
        usable = self.sources.usable
        at = self._rank[np.clip(across, 0, self._rank.size - 1)]
        return np.clip(down, low, high).astype(np.int32), usable[np.clip(at, 0, len(usable) - 1)]

    def at_random(self, random: np.random.Generator) -> tuple[Places, Places]:
        """Any places."""
        usable = self.sources.usable
        down = self._rows + random.integers(-self.reach, self.reach + 1, self.shape)
        return self.hold(down, usable[random.integers(0, len(usable), self.shape)])

    def improve(self, wanted: Working, random: np.random.Generator, rounds: int) -> Working:
        """Look for better places, by what neighbours found and by chance; the differences that are left.

        Args:
            wanted: descriptors of the area's patches, (rows, columns, components).
            random: the chance.
            rounds: how often.
        """
        dear = self._dear()
        best = self._cost(wanted, self.down, self.across, dear)
        for number in range(rounds):
            jump = 1 << max(0, 2 - number)
            for step_down, step_across in ((0, jump), (0, -jump), (jump, 0), (-jump, 0)):
                down = np.roll(self.down, (step_down, step_across), (0, 1)) + step_down
                across = np.roll(self.across, (step_down, step_across), (0, 1)) + step_across
                self._try(wanted, down, across, best, dear)
            radius = len(self.sources.usable)
            while radius >= 1:
                down = self.down + random.integers(-min(radius, self.reach), min(radius, self.reach) + 1, self.shape)
                across = self.across + random.integers(-radius, radius + 1, self.shape)
                self._try(wanted, down.astype(np.int32), across.astype(np.int32), best, dear)
                radius //= 4
        return best

    def _try(self, wanted: Working, down: Places, across: Places, best: Working, dear: Working) -> None:
        down, across = self.hold(down, across)
        cost = self._cost(wanted, down, across, dear)
        better = cost < best
        self.down[better], self.across[better], best[better] = down[better], across[better], cost[better]

    def _cost(self, wanted: Working, down: Places, across: Places, dear: Working) -> Working:
        places = down * np.int32(self.sources.descriptors.shape[1]) + across
        apart = self._flat.take(places, axis=0)
        apart -= wanted
        cost: Working = np.einsum("ijk,ijk->ij", apart, apart)
        cost *= dear.ravel().take(places)
        away = (down - self._rows).astype(np.float32)
        cost *= 1 + np.float32(ANOTHER_HEIGHT / self.reach**2) * away * away
        if self.shunned is not None:
            cost[np.abs(across - self.shunned[None, :]) <= 1] *= SHUNNED
        return cost

    def _dear(self) -> Working:
        """What the difference of each place is multiplied with: places used more often than others are dearer."""
        shape = self.sources.descriptors.shape[:2]
        used = np.bincount((self.down * shape[1] + self.across).ravel(), minlength=shape[0] * shape[1])
        spread = cv2.blur(used.reshape(shape).astype(np.float32), (SIDE, SIDE), borderType=cv2.BORDER_REFLECT)
        mean = self.down.size / max(1, self.sources.usable.size * shape[0])
        made: Working = 1 + USED_OFTEN * np.clip(spread / max(mean, 1e-6) - 1, 0, 6)
        return (made / np.float32(SIDE * SIDE)).astype(np.float32)

    def finer(self, sources: Sources, rows: int, columns: int) -> "Field":
        """The same field at exactly twice the size.

        Args:
            sources: at that size.
            rows: of the area's patches there.
            columns: of the same.
        """
        made = Field(sources, rows, columns)
        down, across = np.arange(rows) + RADIUS, np.arange(columns) - RADIUS  # centres; columns from the join
        at_rows = np.clip(down // 2 - RADIUS, 0, self.shape[0] - 1)
        at_columns = np.clip(across // 2 + RADIUS, 0, self.shape[1] - 1)
        grid = np.ix_(at_rows, at_columns)
        off_down = (down - 2 * (at_rows + RADIUS))[:, None]
        off_across = (across - 2 * (at_columns - RADIUS))[None, :]
        from_down = 2 * (self.down[grid] + RADIUS) + off_down - RADIUS
        from_across = 2 * (self.across[grid] + RADIUS) + off_across - RADIUS
        made.down, made.across = made.hold(from_down.astype(np.int32), from_across.astype(np.int32))
        return made
