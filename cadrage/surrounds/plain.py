"""One colour."""

from typing import ClassVar, Literal

from pydantic import Field

from cadrage.pixels.colour import codes_of
from cadrage.pixels.planes import Planes
from cadrage.surrounds.base import Scene
from cadrage.values import ColourText, Value


class Plain(Value):
    """One colour everywhere.

    Attributes:
        colour: R'G'B' as # and six hexadecimal digits.
    """

    title: ClassVar[str] = "Plain"
    kind: Literal["plain"] = "plain"
    colour: ColourText = Field(default="#000000", title="Colour")

    @property
    def words(self) -> str:
        """See `Specification`."""
        return f"plain {self.colour}"

    def painter(self, scene: Scene) -> "PlainPainter":
        """See `Specification`."""
        return PlainPainter(self, scene)


class PlainPainter:
    """Fills the areas with the nearest codes of the colour."""

    def __init__(self, plain: Plain, scene: Scene) -> None:
        self.areas = scene.areas
        layout = scene.canvas
        self.codes = [round(code) for code in codes_of(plain.colour, layout.colour, layout.depth)]

    def paint(self, source: Planes, canvas: Planes) -> None:
        """See `Painter`."""
        del source
        for plane, areas in enumerate(self.areas):
            for area in areas:
                canvas.arrays[plane][area.slices] = self.codes[plane]
