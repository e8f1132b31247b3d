"""Black bars, measured in finished frames."""

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from cadrage.pixels.planes import Planes

# Share of the way from black to white that still counts as black: what an encoder's rounding leaves of true black.
BLACK_SHARE = 0.02
# Share above which a line is certainly not black. What lies between may be either: coders round dark pictures off.
LIT_SHARE = 0.06
REACH = 2  # samples by which an edge may lie elsewhere

Line = NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class Bars:
    """Black rows and columns along each edge, in luma samples."""

    left: int
    right: int
    top: int
    bottom: int

    def __str__(self) -> str:
        sides = {"left": self.left, "right": self.right, "top": self.top, "bottom": self.bottom}
        found = [f"{side} {width}" for side, width in sides.items() if width]
        return ", ".join(found) if found else "none"

    def within(self, other: "Bars") -> bool:
        """Whether no bar is wider than the other's, but for `REACH`."""
        mine, theirs = (
            (self.left, self.right, self.top, self.bottom),
            (other.left, other.right, other.top, other.bottom),
        )
        return all(one <= two + REACH for one, two in zip(mine, theirs, strict=True))


@dataclass(frozen=True, slots=True)
class Brightness:
    """The brightest luma of every row and every column of some frames: shares of the way from black to white."""

    rows: Line
    columns: Line

    @classmethod
    def of(cls, frames: Iterable[Planes]) -> "Brightness":
        """Measure frames of one size."""
        rows: list[Line] = []
        columns: list[Line] = []
        for frame in frames:
            layout = frame.layout
            black, span, _ = layout.colour.code_range(layout.depth)
            rows.append((frame.arrays[0].max(axis=1) - black) / span)
            columns.append((frame.arrays[0].max(axis=0) - black) / span)
        return cls(np.max(rows, axis=0), np.max(columns, axis=0))

    def bars(self, share: float = BLACK_SHARE) -> Bars:
        """The bars in which nothing is brighter than a share; none where that is so all over."""
        if not (self.rows > share).any():
            return Bars(0, 0, 0, 0)
        return Bars(*_ends(self.columns > share), *_ends(self.rows > share))

    def has_bars_of(self, composed: "Brightness") -> bool:
        """Whether the bars of a file are those that were composed.

        A line is a bar too many only where something was composed that is certainly not black, and a missing bar only
        where black was composed and the file is certainly not black.
        """
        return _has_no_wider_bars(self, composed) and _has_no_wider_bars(composed, self)


def _has_no_wider_bars(one: Brightness, other: Brightness) -> bool:
    return not (other.rows > LIT_SHARE).any() or one.bars().within(other.bars(LIT_SHARE))


def _ends(lit: NDArray[np.bool_]) -> tuple[int, int]:
    found = np.flatnonzero(lit)
    return int(found[0]), int(len(lit) - 1 - found[-1])
