"""Continue a picture beyond its right edge, from its own patches.

After Wexler, Shechtman and Irani (2007): from coarse to fine, patches are looked for that are like what is there, and
what is there is made anew as the mean of the patches that lie over it. What was learned on the way is carried up as the
field of places, never as samples, so that the result stays as sharp as what it is taken from. Other sides are turned so
that they are right ones.
"""

from collections.abc import Callable
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from cadrage.extend.joining import SLIVER, joined_to_mirror
from cadrage.extend.patches import RADIUS, Field, Sources, Working, channels, described

SMALLEST_SIDE = 16
ROUNDS = (14, 10, 6, 3, 1)
"""How often patches are looked for and what is there made anew, from the coarsest level on; finer ones keep what they
are given."""
SEARCHES = 2
CONTEXT = 2 * RADIUS
"""Columns of the picture beside its edge that what is made up must go on from."""
REACHES = (0.08, 0.25, 0.6, 1.0)
"""How much of what is made up begins as the picture's mirror image, in the variants, in turn."""
Report = Callable[[float], None]


@dataclass(frozen=True, slots=True)
class Variant:
    """One of many ways in which a picture can go on.

    Attributes:
        number: from 0; the same number always gives the same.
    """

    number: int

    @property
    def seed(self) -> int:
        """Random choices."""
        return 1000 + self.number

    @property
    def mirrored(self) -> float:
        """How much begins as the mirror image, 0 to 1."""
        return REACHES[self.number % len(REACHES)]


def completed(
    picture: Working,
    columns: int,
    variant: Variant,
    excluded: NDArray[np.bool_] | None = None,
    report: Report = lambda _: None,
    shrink: int = 1,
) -> Working:
    """The columns that come after a picture's right edge.

    Args:
        picture: Y′CbCr codes on the scale of 8 bits, with fractions, (rows, columns, 3).
        columns: how many are wanted.
        variant: which of many.
        excluded: places of the picture that may not be copied.
        report: told the fraction that is done.
        shrink: 1, or a power of 2: a draft that is so many times smaller, of just what would be made.

    Returns:
        (rows, columns, 3), on the same scale; of a draft both sides divided by `shrink`, rounded down.
    """
    levels = _levels(picture.shape[0], picture.shape[1])
    step = 1 << (levels - 1)
    padded = _padded(picture, step)
    mask = None if excluded is None else _padded(excluded.astype(np.float32), step)
    wide = -(-(columns + RADIUS) // step) * step
    random = np.random.default_rng(variant.seed)
    field: Field | None = None
    made = np.zeros((0, 0, 3), np.float32)
    for number in range(levels):
        last = 1 << (levels - 1 - number)
        seen = _shrunk(padded, last)
        held = None if mask is None else _shrunk(mask, last) > 0
        sources = Sources.of(seen, random, held, described_too=number < len(ROUNDS))
        rows, across = seen.shape[0] - 2 * RADIUS, wide // last + CONTEXT - 2 * RADIUS
        field = _begun(sources, rows, across, variant, random) if field is None else field.finer(sources, rows, across)
        field.shunned = _mirroring(seen, across, variant)
        made = _voted(field, None)
        for _ in range(ROUNDS[number] if number < len(ROUNDS) else 0):
            canvas = np.concatenate([seen[:, -CONTEXT:], made], axis=1)
            left = field.improve(described(channels(canvas), sources.basis), random, SEARCHES)
            made = _voted(field, left)
        report((number + 1) / levels)
        if last <= shrink:
            break
    rows, columns = picture.shape[0] // last, columns // last
    return joined_to_mirror(_shrunk(padded, last)[:rows], made[:rows, :columns])


def _levels(rows: int, columns: int) -> int:
    levels = 1
    while min(rows, columns) >> levels >= SMALLEST_SIDE:
        levels += 1
    return levels


def _padded(picture: Working, step: int) -> Working:
    """A picture whose sides divide by a step; it goes on mirrored below and on the left."""
    rows, columns = picture.shape[:2]
    more_rows, more_columns = -rows % step, -columns % step
    made = cv2.copyMakeBorder(picture, 0, more_rows, more_columns, 0, cv2.BORDER_REFLECT)
    return np.asarray(made, np.float32)


def _shrunk(picture: Working, factor: int) -> Working:
    if factor == 1:
        return picture
    size = picture.shape[1] // factor, picture.shape[0] // factor
    return np.asarray(cv2.resize(picture, size, interpolation=cv2.INTER_AREA), np.float32)


def _begun(sources: Sources, rows: int, columns: int, variant: Variant, random: np.random.Generator) -> Field:
    """A field that begins as the mirror image near the edge, and at random beyond."""
    field = Field(sources, rows, columns)
    down, across = field.at_random(random)
    wide = sources.picture.shape[1] // 2
    near = round(variant.mirrored * columns)
    place = np.arange(columns)
    mirrored = np.broadcast_to(wide - RADIUS + (place - RADIUS) % wide, (rows, columns))
    own = np.broadcast_to(np.arange(rows)[:, None], (rows, columns))
    held_down, held_across = field.hold(own.astype(np.int32), mirrored.astype(np.int32))
    use = np.broadcast_to(place < near, (rows, columns))
    field.down, field.across = np.where(use, held_down, down), np.where(use, held_across, across)
    return field


def _mirroring(seen: Working, columns: int, variant: Variant) -> NDArray[np.int32]:
    """For each column of patches, the place that would only mirror the picture on, beyond where that is wanted."""
    place = np.arange(columns)
    mirrored = seen.shape[1] - RADIUS + (place - RADIUS) % seen.shape[1]
    near = max(variant.mirrored * columns, RADIUS + 1 + SLIVER * seen.shape[0])
    return np.where(place < near, -9, mirrored).astype(np.int32)


def _voted(field: Field, left: Working | None) -> Working:
    """What patches say together: (rows, columns, 3), without the columns of context.

    Args:
        field: where they are from.
        left: how much each differs from what was there; those that differ more say less.
    """
    rows, columns = field.shape
    total = np.zeros((rows + 2 * RADIUS, columns + 2 * RADIUS, 3), np.float32)
    weights = np.zeros(total.shape[:2], np.float32)
    scale = 1.0 if left is None else float(np.percentile(left, 75)) + 1.0
    trust = (
        np.ones(field.shape, np.float32)
        if left is None
        else (LEAST_TRUST + np.exp(-left / (2 * scale))).astype(np.float32)
    )
    source = field.sources.picture
    for down in range(-VOTE_RADIUS, VOTE_RADIUS + 1):
        for across in range(-VOTE_RADIUS, VOTE_RADIUS + 1):
            near = np.float32(np.exp(-(down * down + across * across) / (2 * VOTE_SIGMA**2)))
            maps = (
                (field.across + (RADIUS + across)).astype(np.float32),
                (field.down + (RADIUS + down)).astype(np.float32),
            )
            taken = cv2.remap(source, *maps, cv2.INTER_NEAREST)
            at = slice(RADIUS + down, RADIUS + down + rows), slice(RADIUS + across, RADIUS + across + columns)
            share = trust * near
            total[at] += taken * share[..., None]
            weights[at] += share
    edge = slice(BEYOND, -BEYOND or None)
    total, weights = np.ascontiguousarray(total[edge, edge]), weights[edge, edge]
    total /= weights[..., None]
    border = (BEYOND, BEYOND, BEYOND, BEYOND)
    return np.asarray(cv2.copyMakeBorder(total, *border, cv2.BORDER_REPLICATE), np.float32)[:, CONTEXT:]


VOTE_SIGMA = 1.2
VOTE_RADIUS = 2
BEYOND = RADIUS - VOTE_RADIUS
"""Rows and columns at the border that no vote reaches."""
LEAST_TRUST = 0.01
