"""How large the picture is along a way: closer on something small, wider for a group, within limits that were set."""

from dataclasses import dataclass
from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

from cadrage.analysis.following.samples import EACH
from cadrage.motion.cast import Actor, View
from cadrage.motion.follow import Follow
from cadrage.motion.pose import Stage
from cadrage.motion.solver import TEMPI, solve
from cadrage.motion.spline import SplineRow
from cadrage.motion.wanted import Wanted

Floats = NDArray[np.float64]
FACE, BODY = 0.22, 0.62
"""Of the window's height: a face, and a body, where the picture may get as large as that asks for."""
ROOM = 0.9
"""Of the window's width: a group fits where it is no wider."""


@dataclass(frozen=True, slots=True)
class Sizes:
    """A way of sizes.

    Attributes:
        row: control points of the tightness.
        times_larger: (s,): how many times larger than placed the picture is in each sample.
    """

    row: SplineRow
    times_larger: Floats


def sizes(
    follow: Follow,
    actors: list[Actor],
    kept: NDArray[np.bool_],
    times: Floats,
    length: Fraction,
    view: View,
    stage: Stage,
) -> Sizes | None:
    """How large the picture is over a shot; None where it stays as it is placed.

    Args:
        follow: the settings.
        actors: who is followed.
        kept: (a, s): whom the window shows.
        times: (s,): of the samples, in seconds from when it may move.
        length: seconds for which it may.
        view: the window as placed.
        stage: of the placement.
    """
    if follow.closest == follow.widest == 1 or not actors or not len(times):
        return None
    from cadrage.motion.linear_program import basis  # noqa: PLC0415 - SciPy is slow to load, and seldom needed

    least, most = 1 / float(follow.widest), float(follow.closest)
    wanted, weights = _wanted(actors, kept, view, least, most)
    limits = np.full(len(times), least), np.full(len(times), most)
    row = solve(Wanted(times, wanted, weights, 1.0, *limits), length, TEMPI["calm"], EACH)
    base = stage.pose.scale
    points = tuple(_brief(stage.tightness_at(base * point)) for point in row.points)
    segments = max(1, len(points) - 3)
    values = np.array([float(stage.scale_at(point) / base) for point in points])
    larger = np.full(len(times), values[0])
    if len(points) > 1:
        larger = np.asarray(basis(times, float(row.step), segments) @ values)
    return Sizes(SplineRow(step=row.step, points=points), larger)


def _brief(value: Fraction) -> Fraction:
    return Fraction(round(value * 10**6), 10**6)


def _wanted(
    actors: list[Actor], kept: NDArray[np.bool_], view: View, least: float, most: float
) -> tuple[Floats, Floats]:
    """How many times larger the picture ought to be, and how much that counts."""
    left, right, tall = [], [], []
    for actor in actors:
        left.append(actor.boxes[:, 0] - actor.boxes[:, 2] / 2)
        right.append(actor.boxes[:, 0] + actor.boxes[:, 2] / 2)
        share = FACE if actor.kind == "face" and np.nanmedian(actor.boxes[:, 3]) < BODY / 2 else BODY
        tall.append(share * view.window[1] / np.maximum(actor.boxes[:, 3], 1e-3))
    there = kept & np.array([actor.matters > 0 for actor in actors])
    some = there.any(axis=0)
    across = np.where(there, right, -np.inf).max(axis=0) - np.where(there, left, np.inf).min(axis=0)
    fits = ROOM * view.window[0] / np.maximum(np.where(some, across, 1.0), 1e-3)
    close = np.where(there, tall, np.inf).min(axis=0)
    wanted = np.where(some, np.minimum(fits, np.where(np.isfinite(close), close, 1.0)), 1.0)
    return np.clip(wanted, least, most), np.where(some, 1.0, 0.02)
