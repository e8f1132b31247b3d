"""A window that follows: from the evidence in a shot and the settings to the path."""

from dataclasses import dataclass
from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

from cadrage.analysis.following.samples import EACH
from cadrage.motion.cast import Actor, View
from cadrage.motion.confidence import by_second, confidence, doubts
from cadrage.motion.follow import Doubt, Follow, Pin
from cadrage.motion.pose import Stage
from cadrage.motion.route import Aims, aims
from cadrage.motion.sizes import Sizes, sizes
from cadrage.motion.solver import TEMPI, solve
from cadrage.motion.spline import Spline, SplineRow
from cadrage.motion.wanted import Tempo, Wanted

Floats = NDArray[np.float64]
CLEAR = 2
"""Pictures at either side of a cut in which nothing moves."""


@dataclass(frozen=True, slots=True)
class ShotToFollow:
    """What a way is looked for in.

    Attributes:
        start, end: in seconds of the clip.
        picture: seconds that one picture is shown.
        times: (s,): of its samples.
        actors: who is to be followed, over its samples.
        liveliest: where most moves, across and down; see `Pose`. The window stands there where nobody is to be seen.
        asked: whether a person chose the subject.
    """

    start: Fraction
    end: Fraction
    picture: Fraction
    times: Floats
    actors: list[Actor]
    liveliest: tuple[float, float] = (0.0, 0.0)
    asked: bool = False


@dataclass(frozen=True, slots=True)
class Followed:
    """The result for a shot.

    Attributes:
        way: of the window.
        doubts: stretches in which it may not show whom it ought to.
    """

    way: Spline
    doubts: tuple[Doubt, ...]


def followed(follow: Follow, shot: ShotToFollow, stage: Stage, view: View) -> Followed:
    """The way of a window over one shot."""
    tempo, count = TEMPI[follow.pace], len(shot.times)
    first = 0 if view.reach[0] / view.window[0] >= view.reach[1] / view.window[1] else 1
    found: dict[int, Aims] = {}
    rest = shot.liveliest
    found[first] = aims(shot.actors, view, first, tempo, count, rest[first])
    found[1 - first] = aims(shot.actors, view, 1 - first, tempo, count, rest[1 - first], found[first].kept)
    since, length = _moving(shot)
    both, times = (found[0], found[1]), shot.times - float(since)
    size = sizes(follow, shot.actors, both[0].kept & both[1].kept, times, length, view, stage)
    across, down = (_row(follow, shot, view, axis, both[axis], tempo, size) for axis in (0, 1))
    way = Spline(start=shot.start, since=since, x=across, y=down, tightness=size.row if size is not None else None)
    sure = confidence(shot.actors, view, both, _middles(way, shot.times), shot.times, follow.pins)
    way = way.model_copy(update={"sure": by_second(sure, shot.times, shot.start)})
    span = shot.start, shot.end
    return Followed(way, tuple(doubts(shot.actors, view, both, sure, shot.times, span, asked=shot.asked)))


def _moving(shot: ShotToFollow) -> tuple[Fraction, Fraction]:
    """From when the window may move, and for how many seconds: not next to a cut."""
    since = shot.start + CLEAR * shot.picture
    return since, shot.end - (CLEAR + 1) * shot.picture - since


def _middles(way: Spline, times: Floats) -> Floats:
    """(s, 2): where the middle of the window is at some times."""
    parts = [Fraction(float(time)).limit_denominator(10**6) for time in times]
    return np.array(
        [[float(row.at(time - way.since)) for row in (way.x, way.y)] for time in parts], np.float64
    ).reshape(-1, 2)


def _row(
    follow: Follow, shot: ShotToFollow, view: View, axis: int, aim: Aims, tempo: Tempo, size: Sizes | None
) -> SplineRow:
    """Control points along one axis."""
    since, length = _moving(shot)
    reach = np.full(len(shot.times), view.reach[axis])
    if size is not None:
        reach = np.maximum(0.0, 0.5 - view.window[axis] / 2 / size.times_larger)
    pins = [one for pin in follow.pins for one in _moments(pin, axis, shot, float(since), float(length))]
    places = np.zeros(len(shot.times)) if follow.aim == "centre" else aim.places
    wanted = Wanted(shot.times - float(since), places, aim.weights, view.window[axis], -reach, reach, pins)
    fixed = view.reach[axis] == 0 and size is None
    return solve(wanted, length, tempo, EACH, still=fixed or follow.aim != "subject")


def _moments(pin: Pin, axis: int, shot: ShotToFollow, since: float, length: float) -> list[tuple[float, float]]:
    """When a pin is to be met, as far as it lies in the shot; counted from when the window may move."""
    if not shot.start <= pin.time < shot.end:
        return []
    place, half = float((pin.x, pin.y)[axis]), float(pin.hold) / 2
    moments = {min(max(float(pin.time) - since + away, 0.0), max(length, 0.0)) for away in (-half, 0.0, half)}
    return [(moment, place) for moment in sorted(moments)]
