"""What an editor should know about a placement before choosing it."""

from fractions import Fraction
from typing import Literal

from cadrage.geometry.cost import Cost
from cadrage.values import Value

LOOKS_SOFT = Fraction(2)
"""Above this scale the editor is warned; a convention of ours, since it depends on the material and the viewer."""
A_THIRD = Fraction(100, 3)
SHAPE_ERROR = Fraction(1, 200)

CautionKind = Literal["much_enlarged", "enlarged", "lost", "small", "shape"]
WRONG: frozenset[CautionKind] = frozenset({"lost", "shape"})


class Caution(Value):
    """One thing to know about a placement.

    Attributes:
        kind: what it is about.
        message: a sentence.
        brief: a few words with its number, for narrow places.
        wrong: whether something is lost or wrong; otherwise it is a note.
    """

    kind: CautionKind
    message: str
    brief: str
    wrong: bool


def cautions(cost: Cost) -> tuple[Caution, ...]:
    """The cautions a cost gives cause for; none where there is nothing to say."""
    found: list[Caution] = []

    def add(kind: CautionKind, message: str, brief: str) -> None:
        found.append(Caution(kind=kind, message=message, brief=brief, wrong=kind in WRONG))

    scaled = f"scaled to {float(100 * cost.enlargement):.0f}%"
    if cost.enlargement > LOOKS_SOFT:
        add("much_enlarged", f"{scaled.capitalize()}: will look soft.", scaled)
    elif cost.enlargement > 1:
        add("enlarged", f"{scaled.capitalize()}.", scaled)
    if 100 - cost.kept_percent > A_THIRD:
        add("lost", "More than a third of the picture is cropped.", f"{float(100 - cost.kept_percent):.0f}% cropped")
    if cost.covered_percent < A_THIRD:
        message = "The picture covers less than a third of the frame."
        add("small", message, f"covers {float(cost.covered_percent):.0f}%")
    if abs(cost.shape - 1) > SHAPE_ERROR:
        way = "wide" if cost.shape > 1 else "narrow"
        error = f"{float(abs(cost.shape - 1) * 100):.1f}%"
        add("shape", f"Wrong shape: everything is {error} too {way}.", f"shape {error} wrong")
    return tuple(found)
