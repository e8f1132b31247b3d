"""Black bars, measured in finished frames."""

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from cadrage.pixels.planes import Planes

# Share of the way from black to white that still counts as black: what an encoder's rounding leaves of true black.
BLACK_SHARE = 0.02


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

    def near(self, other: "Bars", reach: int = 2) -> bool:
        """Whether every side agrees within some pixels."""
        mine, theirs = (
            (self.left, self.right, self.top, self.bottom),
            (other.left, other.right, other.top, other.bottom),
        )
        return all(abs(one - two) <= reach for one, two in zip(mine, theirs, strict=True))


def black_bars(frames: Iterable[Planes]) -> Bars:
    """The bars that are black in every one of the frames; none where the frames are black all over."""
    rows: NDArray[np.bool_] = np.zeros(0, np.bool_)
    columns: NDArray[np.bool_] = np.zeros(0, np.bool_)
    for frame in frames:
        luma, layout = frame.arrays[0], frame.layout
        black, span, _ = layout.colour.code_range(layout.depth)
        bright = luma > black + BLACK_SHARE * span
        lit_rows, lit_columns = np.any(bright, axis=1, keepdims=True)[:, 0], np.any(bright, axis=0, keepdims=True)[0]
        rows = rows | lit_rows if rows.size else lit_rows
        columns = columns | lit_columns if columns.size else lit_columns
    if not rows.any():
        return Bars(0, 0, 0, 0)
    return Bars(*_ends(columns), *_ends(rows))


def _ends(lit: NDArray[np.bool_]) -> tuple[int, int]:
    found = np.flatnonzero(lit)
    return int(found[0]), int(len(lit) - 1 - found[-1])
