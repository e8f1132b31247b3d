"""The way of a window: L1-optimal over places where it ought to be.

After M. Grundmann, V. Kwatra, I. Essa: Auto-directed video stabilization with robust L1 optimal camera paths, CVPR
2011, but on the control points of a cubic B-spline, in window widths and seconds, so that neither size nor rate matters. What
is weighed in the first, second and third derivative becomes stillness, even movement and soft changes: a linear program
pays for each piece that is not 0, so most of them are exactly 0.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from itertools import pairwise
from math import ceil
from typing import cast

import numpy as np
from numpy.typing import NDArray
from scipy import sparse
from scipy.optimize import linprog

from cadrage.motion.follow import Pace
from cadrage.motion.spline import ORDER, SplineRow

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


TEMPI: dict[Pace, Tempo] = {
    "calm": Tempo(1.5, 8, 0.10, 3.0),
    "medium": Tempo(0.6, 5, 0.06, 2.0),
    "quick": Tempo(0.25, 3, 0.03, 1.0),
}
STILL, EVEN, SOFT = 0.35, 1.0, 1.0
"""What a move, a change of its speed and a change of that cost, against being away from where it ought to be."""
FEWER = (3, 2, 1)
"""Samples from knot to knot that are tried where pins cannot be met with more."""
PULLED = 1.5
"""Seconds around a pin in which other places count less."""
PLACES = 7
"""Decimal places of control points: a millionth of a picture, and less."""


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


def solve(wanted: Wanted, length: float, tempo: Tempo, each: Fraction, *, still: bool = False) -> SplineRow:
    """The best way of one coordinate over a shot.

    Args:
        wanted: where it ought to be.
        length: seconds for which it may move.
        tempo: how.
        each: seconds from one sample to the next.
        still: whether it is to stand.
    """
    tried = [tempo.each, *(number for number in FEWER if number < tempo.each)]
    if still or length < 2 * float(each) or not wanted.times.size:
        return SplineRow(step=each, points=(_rounded(_standing(wanted)),))
    for number in tried:
        step = float(each) * number
        found = _solved(wanted, max(1, ceil(length / step)), step, tempo)
        if found is not None:
            points = tuple(_rounded(point) for point in found)
            whole = all(point == points[0] for point in points)
            return SplineRow(step=each * number, points=points[:1] if whole else points)
    return solve(_with_fewer_pins(wanted), length, tempo, each)


def _with_fewer_pins(wanted: Wanted) -> Wanted:
    """Without the first of the two pins that are nearest to one another."""
    pins = sorted(wanted.pins)
    gaps = [later[0] - earlier[0] for earlier, later in pairwise(pins)]
    gone = int(np.argmin(gaps)) if gaps else 0
    return Wanted(
        wanted.times,
        wanted.places,
        wanted.weights,
        wanted.unit,
        wanted.low,
        wanted.high,
        [*pins[:gone], *pins[gone + 1 :]],
    )


def _standing(wanted: Wanted) -> float:
    """The one place that is nearest to all: their weighted median; or the pin's."""
    if wanted.pins:
        return wanted.pins[0][1]
    if not wanted.places.size:
        return 0.0
    order = np.argsort(wanted.places, kind="stable")
    reached = np.cumsum(wanted.weights[order] + 1e-9)
    middle = float(wanted.places[order][np.searchsorted(reached, reached[-1] / 2)])
    return min(max(middle, float(wanted.low.max())), float(wanted.high.min()))


def _rounded(value: float) -> Fraction:
    return Fraction(round(value * 10**PLACES), 10**PLACES)


def basis(times: Floats, step: float, segments: int) -> sparse.csr_matrix:
    """(s, segments + 3): how much each control point counts at each time; see `spline.weights`."""
    part = np.clip(times / step, 0, segments)
    segment = np.minimum(part.astype(int), segments - 1)
    u = part - segment
    values = np.stack([(1 - u) ** 3, 3 * u**3 - 6 * u**2 + 4, -3 * u**3 + 3 * u**2 + 3 * u + 1, u**3]) / 6
    rows = np.tile(np.arange(len(times)), ORDER)
    columns = np.concatenate([segment + number for number in range(ORDER)])
    shape = len(times), segments + ORDER - 1
    return sparse.csr_matrix((values.ravel(), (rows, columns)), shape=shape)


def _solved(wanted: Wanted, segments: int, step: float, tempo: Tempo) -> Floats | None:
    """Control points; None where the pins cannot be met with so few."""
    count, samples = segments + ORDER - 1, len(wanted.times)
    at = basis(wanted.times, step, segments)
    places = wanted.places / wanted.unit
    near = _pulled(wanted)
    every = np.median(np.diff(wanted.times)) if samples > 1 else step
    differences = [_difference(count, order, step) for order in (1, 2, 3)]
    paid = [STILL * tempo.seconds, EVEN * tempo.seconds**2, SOFT * tempo.seconds**3]
    sizes = [matrix.shape[0] for matrix in differences]
    cost = np.concatenate(
        [np.zeros(count), near * every, *(np.full(size, step * price) for size, price in zip(sizes, paid, strict=True))]
    )
    blocks, bounds = _absolute(at, places, tempo.band, [samples, *sizes], 0)
    for number, matrix in enumerate(differences):
        more, limits = _absolute(matrix, np.zeros(matrix.shape[0]), 0.0, [samples, *sizes], number + 1)
        blocks, bounds = [*blocks, *more], [*bounds, *limits]
    equal, values = _equalities(wanted, segments, step, count)
    low, high = _limits(wanted, segments, step, count)
    beyond = [(0.0, None)] * (samples + sum(sizes))
    pad = sparse.csr_matrix((equal.shape[0], samples + sum(sizes)))
    found = linprog(
        cost,
        A_ub=sparse.vstack(blocks, format="csr"),
        b_ub=np.concatenate(bounds),
        A_eq=sparse.hstack([equal, pad], format="csr"),
        b_eq=values,
        bounds=[*zip(low, high, strict=True), *beyond],
        method="highs",
    )
    return cast("Floats", found.x[:count] * wanted.unit) if found.status == 0 else None


def _pulled(wanted: Wanted) -> Floats:
    """Weights of places; near pins they count less."""
    weights = wanted.weights.astype(np.float64)
    for moment, _ in wanted.pins:
        weights = weights * (1 - np.exp(-(((wanted.times - moment) / PULLED) ** 2)))
    return np.asarray(weights, np.float64)


def _difference(count: int, order: int, step: float) -> sparse.csr_matrix:
    """The derivative of a spline of control points, at each of its pieces."""
    matrix = sparse.identity(count, format="csr")
    for _ in range(order):
        matrix = (matrix[1:] - matrix[:-1]) / step
    return matrix


def _absolute(
    matrix: sparse.csr_matrix, offsets: Floats, free: float, sizes: list[int], number: int
) -> tuple[list[sparse.csr_matrix], list[Floats]]:
    """Rows that make the slack of a part at least how far it is from its offsets, less what is free."""
    rows = matrix.shape[0]
    slack = [sparse.csr_matrix((rows, size)) for size in sizes]
    slack[number] = -sparse.identity(rows, format="csr")
    blocks = [sparse.hstack([sign * matrix, *slack], format="csr") for sign in (1, -1)]
    return blocks, [offsets + free, free - offsets]


def _equalities(wanted: Wanted, segments: int, step: float, count: int) -> tuple[sparse.csr_matrix, Floats]:
    """It begins and ends at rest, and passes its pins."""
    ends = sparse.lil_matrix((2, count))
    ends[0, 0], ends[0, 2], ends[1, count - 3], ends[1, count - 1] = 1, -1, 1, -1
    moments = np.array([moment for moment, _ in wanted.pins], np.float64)
    places = np.array([place for _, place in wanted.pins], np.float64) / wanted.unit
    passed = basis(moments, step, segments)
    return sparse.vstack([ends.tocsr(), passed], format="csr"), np.concatenate([np.zeros(2), places])


def _limits(wanted: Wanted, segments: int, step: float, count: int) -> tuple[Floats, Floats]:
    """Between which values each control point is to be: the narrowest in all of the time in which it counts."""
    low, high = np.full(count, -np.inf), np.full(count, np.inf)
    segment = np.clip((wanted.times / step).astype(int), 0, segments - 1)
    for number in range(ORDER):
        np.maximum.at(low, segment + number, wanted.low / wanted.unit)
        np.minimum.at(high, segment + number, wanted.high / wanted.unit)
    low[~np.isfinite(low)], high[~np.isfinite(high)] = low[np.isfinite(low)].max(), high[np.isfinite(high)].min()
    middle = (low + high) / 2
    return np.minimum(low, middle), np.maximum(high, middle)
