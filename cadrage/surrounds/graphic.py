"""A panel for titles in the empty part of the frame."""

from collections.abc import Callable
from fractions import Fraction
from typing import Any, ClassVar, Literal, Self

from pydantic import Field

from cadrage.fields import named, percent, words
from cadrage.lettering.style import Lettered
from cadrage.lettering.text import Align
from cadrage.lettering.times import Shown
from cadrage.pixels.planes import Planes
from cadrage.surrounds.base import Scene
from cadrage.surrounds.blurred import Blurred
from cadrage.surrounds.grounds import Ground
from cadrage.surrounds.panel import Place, draw_panel

Upright = Literal["top", "middle", "bottom"]


class Graphic(Lettered, Shown):
    """Words and a logo on a ground, laid out where the frame is free.

    Attributes:
        title, subtitle, small_print: its words; what is empty is left out.
        logo: a picture, by the name it has where the plan is kept; empty for none.
        logo_size: its height, in percent of the frame's.
        rule: whether a line stands under the title.
        place: where it stands. Where it is free means the largest place beside the picture, and the one across from
            it too where that is nearly as large; logo and small print go there.
        align, upright: how words stand in their place.
        ground: the surround behind them.
    """

    title: ClassVar[str] = "Graphic"
    kind: Literal["graphic"] = "graphic"
    heading: str = words("Title", "Title", 120)
    subtitle: str = words("Subtitle", "", 200)
    small_print: str = words("Small print", "", 400)
    logo: str = named("Logo", "logo")
    logo_size: float = percent(2, 60, 14, "Logo size")
    rule: bool = Field(default=True, title="Rule line")
    place: Place = Field(default="where it is free", title="Place")
    align: Align = Field(default="left", title="Align")
    upright: Upright = Field(default="middle", title="Stands at")
    ground: Ground = Field(default=Blurred(softness=8, brightness=35), title="Ground")

    @property
    def words(self) -> str:
        """See `Specification`."""
        return f"graphic on {self.ground.words}"

    @property
    def names(self) -> tuple[str, ...]:
        """See `Specification`."""
        return (*self.ground.names, *((self.logo,) if self.logo else ()))

    @property
    def moves(self) -> bool:
        """See `Specification`."""
        return self.ground.moves or not self.stays

    @property
    def grounds(self) -> tuple[Any, ...]:
        """See `Specification`."""
        return (self.ground,)

    def over_grounds(self, change: Callable[[Any], Any]) -> Self:
        """See `Specification`."""
        return self.model_copy(update={"ground": change(self.ground)})

    def painter(self, scene: Scene) -> "GraphicPainter":
        """See `Specification`."""
        return GraphicPainter(self, scene)


class GraphicPainter:
    """Paints the ground, and lays on it what is drawn once."""

    def __init__(self, graphic: Graphic, scene: Scene) -> None:
        self.graphic = graphic
        self.ground = graphic.ground.painter(scene)
        self.laid = draw_panel(graphic, scene).laid(scene.areas)

    def paint(self, source: Planes, canvas: Planes, time: Fraction) -> None:
        """See `Painter`."""
        self.ground.paint(source, canvas, time)
        if self.laid:
            self.laid.lay(canvas, self.graphic.opacity(time))
