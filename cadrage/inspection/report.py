"""One line of an inspection: what was asked for, what was found, and whether that is right."""

from fractions import Fraction
from typing import Any, Literal

from pydantic import model_validator

from cadrage.values import Value

Verdict = Literal["right", "wrong", "measured"]
Group = Literal["picture", "colour", "sound", "file"]
RESULTS: dict[Verdict, str] = {"right": "Pass", "wrong": "Fail", "measured": ""}
"""What verdicts are called where they are read."""

GROUPS: dict[Group, tuple[str, ...]] = {
    "picture": ("Size", "Pixel aspect", "Fields", "Black", "Picture position", "Coverage", "Lines", "Frozen"),
    "colour": ("Samples", "Range", "Colour", "Luma"),
    "sound": ("Sound", "Loudness"),
}
"""How the names of lines begin that belong to each part of a file; all others are of the file itself."""


class Line(Value):
    """One thing that was asked for and one that was found.

    Attributes:
        name: what it is about.
        group: what part of the file it is about.
        asked: what the plan asks for; empty where nothing was asked.
        found: what was measured.
        verdict: right, wrong, or only measured.
        remedy: what to do about a wrong one.
    """

    name: str
    group: Group = "file"
    asked: str
    found: str
    verdict: Verdict
    remedy: str = ""

    @model_validator(mode="before")
    @classmethod
    def _group(cls, given: Any) -> Any:  # noqa: ANN401 - whatever a line is made of
        """Fill in the group by the name, also of lines that were stored before there were groups."""
        if not isinstance(given, dict) or "name" not in given:
            return given
        found = next((group for group, names in GROUPS.items() if given["name"].startswith(names)), "file")
        return {"group": found} | given


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
        return measured(name, found)
    verdict, told = ("right", "") if right else ("wrong", remedy)
    return Line(name=name, asked=asked, found=found, verdict=verdict, remedy=told)


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
