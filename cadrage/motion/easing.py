"""How a value goes from one key to the next."""

from fractions import Fraction
from typing import Annotated, Literal

from pydantic import Field

from cadrage.values import Exact, Value

Ease = Literal["even", "smooth", "hold"]

HALVINGS = 40  # a handle's curve is met to 2⁻⁴⁰ of the value range, far below one pixel
Part = Annotated[Exact, Field(ge=0, le=1)]


class Handles(Value):
    """A custom curve between keyframes: a cubic Bézier from (0, 0) to (1, 1), as in CSS Easing Functions Level 2.

    Attributes:
        x1, y1: the handle of the first key, in parts of the time and of the way.
        x2, y2: the handle of the second. Times are from 0 to 1, so that time never runs backwards.
    """

    x1: Part
    y1: Annotated[Exact, Field(ge=-1, le=2)]
    x2: Part
    y2: Annotated[Exact, Field(ge=-1, le=2)]


def eased(ease: Ease | Handles, part: Fraction) -> Fraction:
    """How much of the way is gone after a part of the time, from 0 to 1 each.

    "even" is a straight line; "smooth" begins and ends at rest, 3t² - 2t³ (Hermite); "hold" stays until the end.
    """
    if part <= 0 or part >= 1:
        return Fraction(0) if part <= 0 else Fraction(1)
    if isinstance(ease, Handles):
        return _bezier(_met(ease.x1, ease.x2, part), ease.y1, ease.y2)
    if ease == "hold":
        return Fraction(0)
    return part if ease == "even" else part * part * (3 - 2 * part)


def _bezier(t: Fraction, first: Fraction, second: Fraction) -> Fraction:
    rest = 1 - t
    return 3 * rest * rest * t * first + 3 * rest * t * t * second + t * t * t


def _met(first: Fraction, second: Fraction, part: Fraction) -> Fraction:
    """The parameter at which the curve's time is a part; times grow with it, so halving finds it."""
    low, high = 0, 1 << HALVINGS
    while high - low > 1:
        middle = (low + high) // 2
        if _bezier(Fraction(middle, 1 << HALVINGS), first, second) <= part:
            low = middle
        else:
            high = middle
    return Fraction(low, 1 << HALVINGS)
