"""The linear program behind a window's way: what is paid for, and what must hold.

After M. Grundmann, V. Kwatra, I. Essa: Auto-directed video stabilization with robust L1 optimal camera paths, CVPR
2011, but on the control points of a cubic B-spline, in window widths and seconds, so that neither size nor rate
matters. What is paid in the first, second and third derivative becomes stillness, even movement and soft changes: a
linear program pays for each piece that is not 0, so most of them are exactly 0.
"""

from dataclasses import dataclass
from typing import cast

import numpy as np
from numpy.typing import NDArray
from scipy import sparse
from scipy.optimize import linprog

from cadrage.motion.spline import ORDER
from cadrage.motion.wanted import Grid, Tempo, Wanted

Floats = NDArray[np.float64]
STILL, EVEN, SOFT = 0.35, 1.0, 1.0
"""The price of moving, of a change of speed and of a change of that, against being away from the ideal place."""
KEPT, LOST = 0.3, 3.0
"""The distance, in windows, at which the window begins to lose its subject, and how much more that costs."""
PULLED = 1.5
"""Seconds around a pin in which other places count less."""
FITS = 1e-9
"""Windows by which limits that meet are kept apart, so that rounding leaves something between them."""


@dataclass(frozen=True, slots=True)
class Part:
    """Something that is paid for: how far `matrix` times the control points is from `offsets`, beyond what is free."""

    matrix: sparse.csr_matrix
    offsets: Floats
    free: float
    price: Floats


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


def control_points(wanted: Wanted, grid: Grid, tempo: Tempo) -> Floats | None:
    """The best control points, in the unit of places; None where pins cannot be met with so few."""
    count = grid.segments + ORDER - 1
    at = basis(wanted.times, grid.step, grid.segments)
    places, near = wanted.places / wanted.unit, _pulled(wanted) * _every(wanted.times, grid.step)
    steady = [_difference(count, order, grid.step) for order in (1, 2, 3)]
    paid = [STILL * tempo.seconds, EVEN * tempo.seconds**2, SOFT * tempo.seconds**3]
    parts = [
        Part(at, places, tempo.band, near),
        Part(at, places, KEPT, LOST * near),
        *(
            Part(matrix, np.zeros(matrix.shape[0]), 0.0, np.full(matrix.shape[0], grid.step * price))
            for matrix, price in zip(steady, paid, strict=True)
        ),
    ]
    equal, values = _equalities(wanted, grid, count)
    low, high = _limits(wanted, grid, count)
    slack = sum(len(part.offsets) for part in parts)
    rows = [_absolute(parts, number) for number in range(len(parts))]
    found = linprog(
        np.concatenate([np.zeros(count), *(part.price for part in parts)]),
        A_ub=sparse.vstack([one for matrix, _ in rows for one in matrix], format="csr"),
        b_ub=np.concatenate([one for _, limits in rows for one in limits]),
        A_eq=sparse.hstack([equal, sparse.csr_matrix((equal.shape[0], slack))], format="csr"),
        b_eq=values,
        bounds=[*zip(low, high, strict=True), *[(0.0, None)] * slack],
        method="highs",
    )
    return cast("Floats", found.x[:count] * wanted.unit) if found.status == 0 else None


def _every(times: Floats, step: float) -> float:
    """Seconds from one sample to the next."""
    return float(np.median(np.diff(times))) if len(times) > 1 else step


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


def _absolute(parts: list[Part], number: int) -> tuple[list[sparse.csr_matrix], list[Floats]]:
    """Rows that make the slack of a part at least its distance from its offsets, less the free part."""
    part = parts[number]
    rows = len(part.offsets)
    slack = [sparse.csr_matrix((rows, len(other.offsets))) for other in parts]
    slack[number] = -sparse.identity(rows, format="csr")
    blocks = [sparse.hstack([sign * part.matrix, *slack], format="csr") for sign in (1, -1)]
    return blocks, [part.offsets + part.free, part.free - part.offsets]


def _equalities(wanted: Wanted, grid: Grid, count: int) -> tuple[sparse.csr_matrix, Floats]:
    """It begins and ends at rest, or goes on from what was, and passes its pins."""
    before = [] if grid.before is None else list(grid.before / wanted.unit)
    ends = sparse.lil_matrix((2, count))
    if not before:
        ends[0, 0], ends[0, 2] = 1, -1
    if grid.last:
        ends[1, count - 3], ends[1, count - 1] = 1, -1
    same = sparse.eye(len(before), count, format="csr")
    moments = np.array([moment for moment, _ in wanted.pins], np.float64)
    places = np.array([place for _, place in wanted.pins], np.float64) / wanted.unit
    passed = basis(moments, grid.step, grid.segments)
    return sparse.vstack([ends.tocsr(), same, passed], format="csr"), np.concatenate([np.zeros(2), before, places])


def _limits(wanted: Wanted, grid: Grid, count: int) -> tuple[Floats, Floats]:
    """Between which values each control point is to be: the narrowest in all of the time in which it counts."""
    low, high = np.full(count, -np.inf), np.full(count, np.inf)
    segment = np.clip((wanted.times / grid.step).astype(int), 0, grid.segments - 1)
    for number in range(ORDER):
        np.maximum.at(low, segment + number, wanted.low / wanted.unit)
        np.minimum.at(high, segment + number, wanted.high / wanted.unit)
    low[~np.isfinite(low)], high[~np.isfinite(high)] = low[np.isfinite(low)].max(), high[np.isfinite(high)].min()
    middle = (low + high) / 2
    return np.minimum(low, middle - FITS), np.maximum(high, middle + FITS)
