"""A panel for titles in the empty part of the frame."""

from collections.abc import Callable
from typing import Any, ClassVar, Literal, Self

from pydantic import Field

from cadrage.lettering.text_layer import Laid
from cadrage.pixels.planes import Planes
from cadrage.surrounds.backgrounds import Background
from cadrage.surrounds.base import FrameState, Scene, WhilePlaced
from cadrage.surrounds.blurred import Blurred
from cadrage.surrounds.panel import Panel, draw_panel


class Graphic(Panel):
    """Words and a logo on a ground, laid out where the frame is free.

    Attributes:
        ground: the surround behind them.
    """

    title: ClassVar[str] = "Graphic"
    kind: Literal["graphic"] = "graphic"
    ground: Background = Field(default=Blurred(softness=8, brightness=35), title="Ground")

    @property
    def summary(self) -> str:
        """See `Specification`."""
        return f"graphic on {self.ground.summary}"

    @property
    def asset_refs(self) -> tuple[str, ...]:
        """See `Specification`."""
        return (*self.ground.asset_refs, *((self.logo,) if self.logo else ()))

    @property
    def animated(self) -> bool:
        """See `Specification`."""
        return self.ground.animated or not self.constant

    @property
    def backgrounds(self) -> tuple[Any, ...]:
        """See `Specification`."""
        return (self.ground,)

    def map_backgrounds(self, change: Callable[[Any], Any]) -> Self:
        """See `Specification`."""
        return self.model_copy(update={"ground": change(self.ground)})

    def painter(self, scene: Scene) -> "GraphicPainter":
        """See `Specification`."""
        return GraphicPainter(self, scene)


class GraphicPainter:
    """Paints the ground, and over it the parts that are drawn once."""

    def __init__(self, graphic: Graphic, scene: Scene) -> None:
        self.graphic = graphic
        self.ground = graphic.ground.painter(scene)
        self.ink = draw_panel(graphic, scene)
        self.laid = WhilePlaced[Laid | None]()

    def paint(self, state: FrameState, canvas: Planes) -> None:
        """See `Painter`."""
        self.ground.paint(state, canvas)
        if laid := self.laid.of(lambda _, areas: self.ink.laid(areas), state.placed, state.areas):
            laid.blend(canvas, self.graphic.opacity(state.time))
