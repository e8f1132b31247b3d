"""A window's way as a uniform cubic B-spline: few numbers, smooth, and never beyond its control points.

Where four control points in a row are equal it stands perfectly still.
"""

from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import replace
from fractions import Fraction
from itertools import pairwise
from typing import Annotated, Self

from pydantic import Field, model_validator

from cadrage.motion.pose import Pose, Stage
from cadrage.values import Exact, PositiveExact, Value

MOST_POINTS = 100_000
ORDER = 4
FARTHEST = 10
MOST_TIMES = 240
BRIEF = 10**9
"""What values are rounded to, in parts of the picture: far below a pixel, and quick to reckon with."""


class SplineRow(Value):
    """One value over time.

    Attributes:
        step: seconds from one knot to the next.
        points: control points; one, where it stands, or at least four.
    """

    step: PositiveExact
    points: Annotated[
        tuple[Annotated[Exact, Field(ge=-FARTHEST, le=FARTHEST)], ...], Field(min_length=1, max_length=MOST_POINTS)
    ]

    @model_validator(mode="after")
    def _whole(self) -> Self:
        if 1 < len(self.points) < ORDER:
            raise ValueError("a spline has one control point, or at least four")
        return self

    @property
    def still(self) -> bool:
        """Whether it stands."""
        return all(one == other for one, other in pairwise(self.points))

    @property
    def knots(self) -> list[Fraction]:
        """Seconds after its first moment at which it goes from one curve to the next; none where it stands."""
        return [] if self.still else [self.step * number for number in range(len(self.points) - ORDER + 2)]

    def moved(self, by: Fraction) -> "SplineRow":
        """The same way elsewhere."""
        points = tuple(min(max(point + by, Fraction(-FARTHEST)), Fraction(FARTHEST)) for point in self.points)
        return self.model_copy(update={"points": points})

    def at(self, seconds: Fraction) -> Fraction:
        """The value so many seconds after its first moment; it stands before that, and after its last."""
        return spline_at(self.points, seconds / self.step)


class Spline(Value):
    """A way over one shot. Before its first and after its last moment the window stands.

    Attributes:
        start: when its shot begins, in seconds of the clip; it counts until the next one's.
        since: when it begins to move.
        x, y: the middle of the window; see `Pose`.
        tightness: how large the picture is; as it is placed where that is None.
        sure: how sure it is in each second from the start that the window shows whom it ought to, percent.
    """

    start: Annotated[Exact, Field(ge=0)]
    since: Annotated[Exact, Field(ge=0)]
    x: SplineRow
    y: SplineRow
    tightness: SplineRow | None = None
    sure: Annotated[tuple[Annotated[int, Field(ge=0, le=100)], ...], Field(max_length=MOST_POINTS)] = ()

    @property
    def rows(self) -> tuple[SplineRow, ...]:
        """All of its values."""
        return (self.x, self.y) if self.tightness is None else (self.x, self.y, self.tightness)

    @property
    def still(self) -> bool:
        """Whether it is static."""
        return all(row.still for row in self.rows)

    @property
    def times(self) -> list[Fraction]:
        """Moments between which it is one curve, as far as it moves."""
        return sorted({self.start, *(self.since + knot for row in self.rows for knot in row.knots)})


def spline_at(row: Sequence[Fraction], part: Fraction) -> Fraction:
    """The value of a row of control points, `part` knots after its first; it stands before and after."""
    if len(row) == 1:
        return row[0]
    last = len(row) - ORDER
    part = min(max(part, Fraction(0)), Fraction(last + 1))
    segment = min(int(part), last)
    points = row[segment : segment + ORDER]
    if all(point == points[0] for point in points):
        return points[0]
    value = sum((weight * point for weight, point in zip(weights(part - segment), points, strict=True)), Fraction(0))
    return Fraction(round(value * BRIEF), BRIEF)


def weights(part: Fraction) -> tuple[Fraction, Fraction, Fraction, Fraction]:
    """How much each of four control points counts after a part of the way between two knots (de Boor, 1978)."""
    rest, square, cube = 1 - part, part * part, part * part * part
    return (
        rest**3 / 6,
        (3 * cube - 6 * square + 4) / 6,
        (-3 * cube + 3 * square + 3 * part + 1) / 6,
        cube / 6,
    )


class SplinePose:
    """A pose over time, from a way over each shot; its angle and what no way sets are as the stage's placement has it.

    Args:
        ways: in the order of time; at least one.
        stage: that they lead over.
    """

    def __init__(self, ways: Sequence[Spline], stage: Stage) -> None:
        self._base, self._stage, self._ways = stage.pose, stage, ways
        self._starts = [way.start for way in ways]
        every = [time for way in ways for time in way.times]
        self.times = tuple(sorted(set(every[:: max(1, -(-len(every) // MOST_TIMES))])))

    def at(self, time: Fraction) -> Pose:
        """The pose at a time, in seconds of the clip."""
        way = self._ways[max(0, bisect_right(self._starts, time) - 1)]
        seconds = time - way.since
        found = replace(self._base, x=way.x.at(seconds), y=way.y.at(seconds))
        if way.tightness is None:
            return found
        return replace(found, scale=self._stage.scale_at(max(way.tightness.at(seconds), Fraction(0))))
