"""Stored pictures made ready to be drawn: turned, cut to the picture, mirrored, and of the colour that is wanted."""

from cadrage.footage.interpretation import ResolvedInterpretation
from cadrage.pixels.colour import Colour
from cadrage.pixels.convert import ColourChange
from cadrage.pixels.planes import Layout, Planes
from cadrage.pixels.relight import LightChange


class Orient:
    """Turns pictures as decoded into pictures as seen.

    Args:
        stored: the layout of the pictures as decoded.
        reading: what their samples are taken to mean.
        colour: what they shall mean.
        mirror: whether left and right change places.

    Attributes:
        layout: of what comes out.
    """

    def __init__(self, stored: Layout, reading: ResolvedInterpretation, colour: Colour, *, mirror: bool) -> None:
        self._reading, self._mirror = reading, mirror
        layout = stored.rotated(reading.rotation).cut(reading.cut)
        self.layout = layout.mirrored if mirror else layout
        self._change: ColourChange | LightChange | None = None
        if colour.relit_from(reading.colour):
            self._change = LightChange(self.layout, colour)
        elif colour.recoded_from(reading.colour):
            self._change = ColourChange(self.layout, colour)
        if self._change:
            self.layout = self._change.layout

    def apply(self, stored: Planes) -> Planes:
        """One picture; its samples are shared with what is given where nothing has to change."""
        upright = stored.rotated(self._reading.rotation).cut(self._reading.cut)
        if self._mirror:
            upright = upright.mirrored()
        return self._change.apply(upright) if self._change else upright
