"""The target of a window's path, and the steps in which it is solved."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class Tempo:
    """How a pace moves.

    Attributes:
        seconds: the time that it takes for a move, about.
        each: samples from one knot to the next.
        band: how far from where it ought to be the window may stay for nothing, in windows.
        change: what it costs to turn from one subject to another, in seconds of all that there is to see.
    """

    seconds: float
    each: int
    band: float
    change: float


@dataclass(frozen=True, slots=True)
class Wanted:
    """Where one coordinate of a window ought to be in a shot.

    Attributes:
        times: (s,): seconds from when it may begin to move, even or not.
        places: (s,): where it ought to be then.
        weights: (s,): how much that counts, 0 to 1.
        unit: the window's side, in the unit of places.
        low, high: (s,): between which places it is to be.
        pins: moments, and the place at each that it is to pass exactly.
    """

    times: Floats
    places: Floats
    weights: Floats
    unit: float
    low: Floats
    high: Floats
    pins: Sequence[tuple[float, float]] = ()


@dataclass(frozen=True, slots=True)
class Grid:
    """The knots that control points belong to.

    Attributes:
        step: seconds from one to the next.
        segments: how many pieces there are between them.
        before: the first three control points, where it goes on from others; else it begins at rest.
        last: whether it ends with them, at rest.
    """

    step: float
    segments: int
    before: Floats | None = None
    last: bool = True
