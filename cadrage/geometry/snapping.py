"""Offsets at which a picture sits in a way people look for."""

from dataclasses import dataclass
from fractions import Fraction
from typing import Literal

from cadrage.geometry.placement import Placed
from cadrage.geometry.shapes import FrameRect
from cadrage.geometry.turning import brief
from cadrage.values import Exact, Value

Meets = Literal["middle", "first_edge", "second_edge"]


class Snap(Value):
    """One such offset.

    Attributes:
        offset: from the centre, in frame pixels.
        label: what is met there.
        meets: which part of the picture meets something: its middle, its left or upper edge, its right or lower edge.
        line: where on the frame it is met, in frame pixels.
    """

    offset: Exact
    label: str
    meets: Meets = "middle"
    line: Exact


def snaps(placed: Placed) -> tuple[tuple[Snap, ...], tuple[Snap, ...]]:
    """The offsets, across and down, that people look for.

    The picture is centred, its edges meet those of the active picture or of the frame, or its centre lies on a third.
    Of a turned picture the outermost corners count as edges.
    """
    area, frame = placed.opening.rect, FrameRect.whole(placed.frame)
    width, height = placed.rect.width, placed.rect.height
    if placed.angle:
        outline = FrameRect.around(placed.corners)
        width, height = brief(outline.width), brief(outline.height)
    across = _Line(area.x, area.width, width, frame.width, "left", "right")
    down = _Line(area.y, area.height, height, frame.height, "top", "bottom")
    return across.snaps(), down.snaps()


@dataclass(frozen=True, slots=True)
class _Line:
    """One direction: where the opening starts and how long it, the picture and the frame are, in frame pixels."""

    start: Fraction
    opening: Fraction
    picture: Fraction
    frame: Fraction
    first: str
    second: str

    def snaps(self) -> tuple[Snap, ...]:
        middle = self.start + self.opening / 2
        found = [Snap(offset=Fraction(0), label="centred", line=middle)]
        found += self._edges(self.start, self.opening, "edges meet")
        if self.opening != self.frame:
            found += self._edges(Fraction(0), self.frame, "edges meet the frame's")
        sixth = self.opening / 6
        found += [
            Snap(offset=-sixth, label="centre on the first third", line=middle - sixth),
            Snap(offset=sixth, label="centre on the second third", line=middle + sixth),
        ]
        return tuple(found)

    def _edges(self, start: Fraction, length: Fraction, what: str) -> list[Snap]:
        spare = (length - self.picture) / 2
        aside = start + length / 2 - self.start - self.opening / 2
        if not spare:
            return []
        return [
            Snap(offset=aside - spare, label=f"{self.first} {what}", meets="first_edge", line=start),
            Snap(offset=aside + spare, label=f"{self.second} {what}", meets="second_edge", line=start + length),
        ]
