"""Offsets at which a picture sits in a way people look for."""

from fractions import Fraction

from cadrage.geometry.placement import Placed
from cadrage.values import Exact, Value


class Snap(Value):
    """One such offset.

    Attributes:
        offset: from the centre, in frame pixels.
        says: what is met there.
        line: where on the frame it is met, in frame pixels.
    """

    offset: Exact
    says: str
    line: Exact


def snaps(placed: Placed) -> tuple[tuple[Snap, ...], tuple[Snap, ...]]:
    """The offsets across and down at which the picture is centred or its edges meet the frame's."""
    area, rect = placed.opening.rect, placed.rect
    across = _snaps(area.x, area.width, rect.width, "left", "right")
    down = _snaps(area.y, area.height, rect.height, "top", "bottom")
    return across, down


def _snaps(start: Fraction, length: Fraction, picture: Fraction, first: str, second: str) -> tuple[Snap, ...]:
    spare = (length - picture) / 2
    found = [Snap(offset=Fraction(0), says="centred", line=start + length / 2)]
    if spare:
        found.append(Snap(offset=-spare, says=f"{first} edges meet", line=start))
        found.append(Snap(offset=spare, says=f"{second} edges meet", line=start + length))
    return tuple(found)
