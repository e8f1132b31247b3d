"""What an editor should know about a placement before choosing it."""

from fractions import Fraction
from typing import Literal

from cadrage.geometry.cost import Cost
from cadrage.values import Value

MUCH_ENLARGED = Fraction(3, 2)
A_THIRD = Fraction(100, 3)
SHAPE_ERROR = Fraction(1, 200)

CautionKind = Literal["much_enlarged", "enlarged", "lost", "small", "shape"]


class Caution(Value):
    """One thing to know about a placement.

    Attributes:
        kind: what it is about.
        message: a sentence.
        brief: a few words with its number, for narrow places.
    """

    kind: CautionKind
    message: str
    brief: str


def cautions(cost: Cost) -> tuple[Caution, ...]:
    """The cautions a cost gives cause for; none where there is nothing to say."""
    found: list[Caution] = []

    def add(kind: CautionKind, message: str, brief: str) -> None:
        found.append(Caution(kind=kind, message=message, brief=brief))

    enlarged = f"{float(cost.enlargement):.2f}"
    if cost.enlargement > MUCH_ENLARGED:
        message = f"Much enlarged: each source pixel becomes {enlarged}; definition is lost."
        add("much_enlarged", message, f"enlarged {enlarged}×")
    elif cost.enlargement > 1:
        add("enlarged", f"Enlarged: each source pixel becomes {enlarged}.", f"enlarged {enlarged}×")
    if 100 - cost.kept_percent > A_THIRD:
        add("lost", "More than a third of the picture is lost.", f"{float(100 - cost.kept_percent):.0f} % lost")
    if cost.covered_percent < A_THIRD:
        message = "The picture covers less than a third of the frame."
        add("small", message, f"covers {float(cost.covered_percent):.0f} %")
    if abs(cost.shape - 1) > SHAPE_ERROR:
        way = "wide" if cost.shape > 1 else "narrow"
        error = f"{float(abs(cost.shape - 1) * 100):.1f} %"
        add("shape", f"Shapes are wrong: everything is {error} too {way}.", f"shapes {error} wrong")
    return tuple(found)
