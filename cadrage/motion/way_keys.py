"""A way that was found, as keys to go on with by hand."""

from collections.abc import Sequence
from fractions import Fraction
from itertools import pairwise

from cadrage.motion.keys import MOST_KEYS, Key
from cadrage.motion.pose import Pose, Stage
from cadrage.motion.spline import Spline, SplinePose

OFF = Fraction(1, 400)
"""Of the picture, or of its size: how far keys may be from the way between them."""
LOOSER = 2


def keys_of_ways(ways: Sequence[Spline], stage: Stage) -> tuple[Key, ...]:
    """As few keys as come near enough to some ways; where a shot begins, the window jumps. At most as many as there may
    be; nearer to the way where fewer do.
    """
    poses, off = SplinePose(ways, stage), OFF
    while True:
        keys = [key for number in range(len(ways)) for key in _keys_of(ways, number, poses, stage, off)]
        if len(keys) <= MOST_KEYS:
            return tuple(keys)
        off *= LOOSER


def _keys_of(ways: Sequence[Spline], number: int, poses: SplinePose, stage: Stage, off: Fraction) -> list[Key]:
    way = ways[number]
    next_start = ways[number + 1].start if number + 1 < len(ways) else None
    times = [time for time in _moments(way) if next_start is None or time < next_start]
    found = [(time, poses.at(time)) for time in times]
    kept = [found[0]] if way.still else _simplified(found, off)
    sized = way.tightness is not None
    keys = [
        Key(
            time=time,
            x=pose.x,
            y=pose.y,
            tightness=stage.tightness_at(pose.scale) if sized else None,
            ease="even",
        )
        for time, pose in kept
    ]
    return [*keys[:-1], keys[-1].model_copy(update={"ease": "hold"})]


def _moments(way: Spline) -> list[Fraction]:
    """Moments of a way, near enough to one another to see its curve."""
    marks = way.times
    if len(marks) == 1:
        return marks
    between = [a + (b - a) * part / 4 for a, b in pairwise(marks) for part in range(4)]
    return [*between, marks[-1]]


def _simplified(points: list[tuple[Fraction, Pose]], off: Fraction) -> list[tuple[Fraction, Pose]]:
    """The fewest points whose straight lines come near enough to all. Ramer, Douglas and Peucker (1972, 1973)."""
    keep, todo = {0, len(points) - 1}, [(0, len(points) - 1)]
    while todo:
        first, last = todo.pop()
        worst, where = max(
            ((_away(points[at], points[first], points[last]), at) for at in range(first + 1, last)), default=(0, 0)
        )
        if worst > off:
            keep.add(where)
            todo += [(first, where), (where, last)]
    return [points[at] for at in sorted(keep)]


def _away(one: tuple[Fraction, Pose], first: tuple[Fraction, Pose], last: tuple[Fraction, Pose]) -> Fraction:
    """How far a pose is from the straight line between two."""
    part = (one[0] - first[0]) / (last[0] - first[0])
    found = [
        abs(getattr(one[1], name) - getattr(first[1], name) - part * (getattr(last[1], name) - getattr(first[1], name)))
        for name in ("x", "y")
    ]
    scale = first[1].scale + part * (last[1].scale - first[1].scale)
    return Fraction(max(*found, abs(one[1].scale / scale - 1)))
