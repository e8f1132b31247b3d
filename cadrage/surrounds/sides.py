"""Two surrounds: one left and one right of the picture, or one above and one below."""

from collections.abc import Callable
from dataclasses import replace
from typing import Any, ClassVar, Literal, Self

from pydantic import Field

from cadrage.geometry import Opening, Placed
from cadrage.pixels.mapping import Area
from cadrage.pixels.planes import Planes
from cadrage.surrounds.backgrounds import Background
from cadrage.surrounds.base import Areas, FrameState, Scene, WhilePlaced
from cadrage.surrounds.blurred import Blurred
from cadrage.surrounds.plain import Plain
from cadrage.values import Value

Way = Literal["empty_area", "left_right", "above_below"]


class Sides(Value):
    """Two surrounds, that meet in a line through the picture's centre.

    Attributes:
        way: how the frame is shared out; where it is empty means left and right if more is empty there.
        first: left, or above.
        second: right, or below.
    """

    title: ClassVar[str] = "Different sides"
    kind: Literal["sides"] = "sides"
    way: Way = Field(default="empty_area", title="Sides")
    first: Background = Field(default=Blurred(), title="Left or above")
    second: Background = Field(default=Plain(colour="#202428"), title="Right or below")

    @property
    def summary(self) -> str:
        """See `Specification`."""
        return f"{self.first.summary} and {self.second.summary}"

    @property
    def asset_refs(self) -> tuple[str, ...]:
        """See `Specification`."""
        return (*self.first.asset_refs, *self.second.asset_refs)

    @property
    def animated(self) -> bool:
        """See `Specification`."""
        return self.first.animated or self.second.animated

    @property
    def backgrounds(self) -> tuple[Any, ...]:
        """See `Specification`."""
        return self.first, self.second

    def map_backgrounds(self, change: Callable[[Any], Any]) -> Self:
        """See `Specification`."""
        return self.model_copy(update={"first": change(self.first), "second": change(self.second)})

    def painter(self, scene: Scene) -> "SidesPainter":
        """See `Specification`."""
        return SidesPainter(self, scene)

    def across(self, placed: Placed, opening: Opening) -> bool:
        """Whether they lie left and right."""
        if self.way != "empty_area":
            return self.way == "left_right"
        rect = placed.rect
        beside = (opening.rect.width - rect.width) * opening.pixel_aspect
        return beside >= opening.rect.height - rect.height


class SidesPainter:
    """Each half of the areas painted by its own painter."""

    def __init__(self, sides: Sides, scene: Scene) -> None:
        self.sides, self.scene = sides, scene
        self.painters = [surround.painter(scene) for surround in (sides.first, sides.second)]
        self.halves = WhilePlaced[tuple[Areas, Areas]]()

    def _halves(self, placed: Placed, areas: Areas) -> tuple[Areas, Areas]:
        across = self.sides.across(placed, self.scene.opening)
        rect = self.scene.on_canvas(placed.rect)
        middle = rect.x + rect.width / 2 if across else rect.y + rect.height / 2
        halves: tuple[list[tuple[Area, ...]], list[tuple[Area, ...]]] = ([], [])
        for plane in range(3):
            by = self.scene.canvas.subsampling(plane)
            line = round(middle / (by.across if across else by.down))
            for half, first in zip(halves, (True, False), strict=True):
                parts = [_half(area, line, across=across, first=first) for area in areas[plane]]
                half.append(tuple(part for part in parts if not part.empty))
        return tuple(halves[0]), tuple(halves[1])

    def paint(self, state: FrameState, canvas: Planes) -> None:
        """See `Painter`."""
        for painter, half in zip(self.painters, self.halves.of(self._halves, state.placed, state.areas), strict=True):
            painter.paint(replace(state, areas=half), canvas)


def _half(area: Area, line: int, *, across: bool, first: bool) -> Area:
    """The part of an area before a line, or behind it."""
    if across and first:
        return replace(area, right=min(area.right, line))
    if across:
        return replace(area, left=max(area.left, line))
    if first:
        return replace(area, bottom=min(area.bottom, line))
    return replace(area, top=max(area.top, line))
