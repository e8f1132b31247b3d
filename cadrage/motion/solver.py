"""The way of a window over a shot of any length, through all pins that can be met."""

from dataclasses import replace
from fractions import Fraction
from itertools import pairwise
from math import ceil, floor

import numpy as np
from numpy.typing import NDArray

from cadrage.motion.follow import Pace
from cadrage.motion.spline import ORDER, SplineRow
from cadrage.motion.wanted import Grid, Tempo, Wanted

Floats = NDArray[np.float64]
TEMPI: dict[Pace, Tempo] = {
    "calm": Tempo(1.0, 7, 0.09, 3.0),
    "medium": Tempo(0.35, 4, 0.07, 2.0),
    "quick": Tempo(0.2, 2, 0.03, 1.0),
}
FEWER = (3, 2, 1)
"""Samples from knot to knot that are tried where pins cannot be met with more."""
BRIEF = 10**5
PLACES = 7
"""Decimal places of control points: a millionth of a picture, and less."""
TOGETHER, AHEAD = 180, 40
"""Pieces of a way that are solved together, and more that are looked at ahead, so that time grows with the length."""


def solve(wanted: Wanted, length: Fraction, tempo: Tempo, each: Fraction, *, still: bool = False) -> SplineRow:
    """The best way of one coordinate over a shot.

    Args:
        wanted: where it ought to be.
        length: seconds for which it may move.
        tempo: how.
        each: seconds from one sample to the next.
        still: whether it is to stand.
    """
    tried = [tempo.each, *(number for number in FEWER if number < tempo.each)]
    if still or length < 2 * each or not wanted.times.size:
        return SplineRow(step=each, points=(_rounded(_standing(wanted)),))
    for number in tried:
        segments = max(1, ceil(length / (each * number)))
        step = Fraction(floor(length / segments * BRIEF), BRIEF)  # so that the last knot is where it is to rest
        found = _solved(wanted, segments, float(step), tempo)
        if found is not None:
            points = tuple(_rounded(point) for point in found)
            whole = all(point == points[0] for point in points)
            return SplineRow(step=step, points=points[:1] if whole else points)
    return solve(_with_fewer_pins(wanted), length, tempo, each)


def _solved(wanted: Wanted, segments: int, step: float, tempo: Tempo) -> Floats | None:
    """Control points over all of a shot, some pieces at a time; None where the pins cannot be met with so few."""
    from cadrage.motion.linear_program import control_points  # noqa: PLC0415 - SciPy is slow to load, and seldom needed

    points = np.zeros(0)
    for start in range(0, segments, TOGETHER):
        end = min(start + TOGETHER + AHEAD, segments)
        last = end == segments
        grid = Grid(step, end - start, points[-(ORDER - 1) :] if start else None, last=last)
        found = control_points(_during(wanted, start * step, end * step), grid, tempo)
        if found is None:
            return None
        points = np.concatenate(
            [points[: -(ORDER - 1)] if start else points, found[: None if last else TOGETHER + ORDER - 1]]
        )
        if last:
            break
    return points


def _during(wanted: Wanted, start: float, end: float) -> Wanted:
    """The part of the target between two times, counted from the first."""
    inside = (wanted.times >= start - 1e-9) & (wanted.times <= end + 1e-9)
    if not inside.any():
        inside[np.argmin(np.abs(wanted.times - start))] = True
    return replace(
        wanted,
        times=wanted.times[inside] - start,
        places=wanted.places[inside],
        weights=wanted.weights[inside],
        low=wanted.low[inside],
        high=wanted.high[inside],
        pins=[(moment - start, place) for moment, place in wanted.pins if start <= moment <= end],
    )


def _with_fewer_pins(wanted: Wanted) -> Wanted:
    """Without the first of the two pins that are nearest to one another."""
    pins = sorted(wanted.pins)
    gaps = [later[0] - earlier[0] for earlier, later in pairwise(pins)]
    gone = int(np.argmin(gaps)) if gaps else 0
    return replace(wanted, pins=[*pins[:gone], *pins[gone + 1 :]])


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
