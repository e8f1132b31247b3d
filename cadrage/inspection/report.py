"""One line of an inspection: what was asked for, what was found, and whether that is right."""

from fractions import Fraction
from typing import Literal

from cadrage.values import Value

Verdict = Literal["right", "wrong", "measured"]


class Line(Value):
    """One thing that was asked for and one that was found.

    Attributes:
        name: what it is about.
        asked: what the plan asks for; empty where nothing was asked.
        found: what was measured.
        verdict: right, wrong, or only measured.
        remedy: what to do about a wrong one.
    """

    name: str
    asked: str
    found: str
    verdict: Verdict
    remedy: str = ""


def line(name: str, asked: str | None, found: str, right: bool, remedy: str) -> Line:
    """A line; only measured where nothing was asked.

    Args:
        name: what it is about.
        asked: what was asked for, or None.
        found: what was measured.
        right: whether the one is the other.
        remedy: what to do if not.
    """
    if asked is None:
        return Line(name=name, asked="", found=found, verdict="measured")
    return Line(
        name=name, asked=asked, found=found, verdict="right" if right else "wrong", remedy="" if right else remedy
    )


def same(name: str, asked: str | None, found: str, remedy: str) -> Line:
    """A line that is right where both texts are the same."""
    return line(name, asked, found, asked == found, remedy)


def measured(name: str, found: str) -> Line:
    """A line of information."""
    return Line(name=name, asked="", found=found, verdict="measured")


def seconds(value: Fraction) -> str:
    """For reading: "1.040 s"."""
    return f"{float(value):.3f} s"


def milliseconds(value: Fraction) -> str:
    """For reading: "21.3 ms"."""
    return f"{float(value * 1000):.1f} ms"
