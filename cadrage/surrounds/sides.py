"""Two surrounds: one left and one right of the picture, or one above and one below."""

from collections.abc import Callable
from dataclasses import replace
from fractions import Fraction
from typing import Any, ClassVar, Literal, Self

from pydantic import Field

from cadrage.pixels.mapping import Area
from cadrage.pixels.planes import Planes
from cadrage.surrounds.base import Scene
from cadrage.surrounds.blurred import Blurred
from cadrage.surrounds.grounds import Ground
from cadrage.surrounds.plain import Plain
from cadrage.values import Value

Way = Literal["where it is empty", "left and right", "above and below"]


class Sides(Value):
    """Two surrounds, that meet in a line through the picture's centre.

    Attributes:
        way: how the frame is shared out; where it is empty means left and right if more is empty there.
        first: left, or above.
        second: right, or below.
    """

    title: ClassVar[str] = "Per side"
    kind: Literal["sides"] = "sides"
    way: Way = Field(default="where it is empty", title="Sides")
    first: Ground = Field(default=Blurred(), title="Left or above")
    second: Ground = Field(default=Plain(colour="#202428"), title="Right or below")

    @property
    def words(self) -> str:
        """See `Specification`."""
        return f"{self.first.words} and {self.second.words}"

    @property
    def names(self) -> tuple[str, ...]:
        """See `Specification`."""
        return (*self.first.names, *self.second.names)

    @property
    def moves(self) -> bool:
        """See `Specification`."""
        return self.first.moves or self.second.moves

    @property
    def grounds(self) -> tuple[Any, ...]:
        """See `Specification`."""
        return self.first, self.second

    def over_grounds(self, change: Callable[[Any], Any]) -> Self:
        """See `Specification`."""
        return self.model_copy(update={"first": change(self.first), "second": change(self.second)})

    def painter(self, scene: Scene) -> "SidesPainter":
        """See `Specification`."""
        return SidesPainter(self, scene)

    def across(self, scene: Scene) -> bool:
        """Whether they lie left and right."""
        if self.way != "where it is empty":
            return self.way == "left and right"
        rect, opening = scene.placed.rect, scene.opening
        beside = (opening.rect.width - rect.width) * opening.pixel_aspect
        return beside >= opening.rect.height - rect.height


class SidesPainter:
    """Each half of the areas painted by its own painter."""

    def __init__(self, sides: Sides, scene: Scene) -> None:
        across = sides.across(scene)
        rect = scene.on_canvas(scene.placed.rect)
        middle = rect.x + rect.width / 2 if across else rect.y + rect.height / 2
        halves: tuple[list[tuple[Area, ...]], list[tuple[Area, ...]]] = ([], [])
        for plane in range(3):
            by = scene.canvas.subsampling(plane)
            line = round(middle / (by.across if across else by.down))
            for half, first in zip(halves, (True, False), strict=True):
                parts = [_half(area, line, across=across, first=first) for area in scene.areas[plane]]
                half.append(tuple(part for part in parts if not part.empty))
        self.painters = [
            surround.painter(replace(scene, areas=tuple(half)))
            for surround, half in zip((sides.first, sides.second), halves, strict=True)
        ]

    def paint(self, source: Planes, canvas: Planes, time: Fraction) -> None:
        """See `Painter`."""
        for painter in self.painters:
            painter.paint(source, canvas, time)


def _half(area: Area, line: int, *, across: bool, first: bool) -> Area:
    """The part of an area before a line, or behind it."""
    if across and first:
        return replace(area, right=min(area.right, line))
    if across:
        return replace(area, left=max(area.left, line))
    if first:
        return replace(area, bottom=min(area.bottom, line))
    return replace(area, top=max(area.top, line))
