"""One colour."""

from typing import ClassVar, Literal

from pydantic import Field

from cadrage.pixels.light import codes_of
from cadrage.pixels.planes import Planes
from cadrage.surrounds.base import FrameState, Scene
from cadrage.surrounds.toning import Toned
from cadrage.values import ColourText


class Plain(Toned):
    """One colour everywhere.

    Attributes:
        colour: R'G'B' as # and six hexadecimal digits.
    """

    title: ClassVar[str] = "Plain"
    kind: Literal["plain"] = "plain"
    colour: ColourText = Field(default="#000000", title="Colour")

    @property
    def summary(self) -> str:
        """See `Specification`."""
        return f"plain {self.colour}"

    def painter(self, scene: Scene) -> "PlainPainter":
        """See `Specification`."""
        return PlainPainter(self, scene)


class PlainPainter:
    """Fills the areas with the nearest codes of the colour."""

    def __init__(self, plain: Plain, scene: Scene) -> None:
        layout = scene.canvas
        codes = codes_of(plain.colour, layout.colour, layout.depth)
        toned = (code * tone.gain + tone.offset for code, tone in zip(codes, plain.tones(layout), strict=True))
        self.codes = [round(min(max(code, 0), 2**layout.depth - 1)) for code in toned]

    def paint(self, state: FrameState, canvas: Planes) -> None:
        """See `Painter`."""
        for plane, areas in enumerate(state.areas):
            for area in areas:
                canvas.arrays[plane][area.slices] = self.codes[plane]
