"""Turning a picture by any angle, exactly.

Cosines are irrational for nearly every angle, so an angle is taken as the nearest one whose cosine and sine are both
rational (within a hundred-billionth of a degree): with t = tan(angle / 2) brought to a fraction,
cos = (1 - t²) / (1 + t²) and sin = 2 t / (1 + t²). All that follows from them is exact again.
"""

from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache
from math import radians, tan

FINEST = 10**13
BRIEF = 10**6

Point = tuple[Fraction, Fraction]


@dataclass(frozen=True, slots=True)
class Turn:
    """A turn clockwise as seen, with x to the right and y down.

    Attributes:
        cos, sin: of the angle; cos² + sin² is exactly 1.
    """

    cos: Fraction
    sin: Fraction

    def apply(self, point: Point) -> Point:
        """A point turned about the origin."""
        x, y = point
        return x * self.cos - y * self.sin, x * self.sin + y * self.cos

    @property
    def back(self) -> "Turn":
        """The turn that undoes this one."""
        return Turn(self.cos, -self.sin)


@lru_cache(maxsize=256)
def turn_of(degrees: Fraction) -> Turn:
    """The turn by an angle between -90 and 90 degrees clockwise."""
    half = Fraction(round(tan(radians(degrees / 2)) * FINEST), FINEST)
    below = 1 + half * half
    return Turn((1 - half * half) / below, 2 * half / below)


def brief(length: Fraction) -> Fraction:
    """A length as it is; to a millionth where a turn has made it a fraction that nobody could write down."""
    return length if length.denominator < BRIEF else Fraction(round(length * BRIEF), BRIEF)


def clipped_to_box(polygon: list[Point], half_width: Fraction, half_height: Fraction) -> list[Point]:
    """The part of a convex polygon inside a box about the origin. Sutherland and Hodgman, CACM 17 (1974)."""
    for axis, limit in ((0, half_width), (1, half_height)):
        for sign in (1, -1):
            polygon = _clipped(polygon, axis, sign, limit)
    return polygon


def _clipped(polygon: list[Point], axis: int, sign: int, limit: Fraction) -> list[Point]:
    """The part of a convex polygon where sign · coordinate is at most a limit."""
    kept: list[Point] = []
    for number, point in enumerate(polygon):
        before = polygon[number - 1]
        inside, was_inside = sign * point[axis] <= limit, sign * before[axis] <= limit
        if inside != was_inside:
            part = (sign * limit - before[axis]) / (point[axis] - before[axis])
            kept.append((before[0] + part * (point[0] - before[0]), before[1] + part * (point[1] - before[1])))
        if inside:
            kept.append(point)
    return kept


def area_of(polygon: list[Point]) -> Fraction:
    """The area of a polygon, by the shoelace formula."""
    pairs = zip(polygon, polygon[1:] + polygon[:1], strict=True)
    return abs(sum((x * v - u * y for (x, y), (u, v) in pairs), Fraction(0))) / 2
