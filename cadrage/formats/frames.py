"""The frame: what is delivered."""

from fractions import Fraction
from typing import Annotated, Literal

from pydantic import Field

from cadrage.geometry import FrameRect, Raster, active_picture, drawn_even
from cadrage.values import ColourText, PositiveExact, Value

MIN_SIDE = 16
MAX_SIDE = 8192

Side = Annotated[int, Field(ge=MIN_SIDE, le=MAX_SIDE)]


class Frame(Value):
    """What is delivered.

    Attributes:
        width, height: stored pixels, 16 to 8192 a side (8192 holds the 7680×4320 of ITU-R BT.2020).
        pixel_aspect: width of one pixel over its height.
        active: display aspect of the active picture inside the frame, such as 2.39; None is the whole frame.
        outside: what is outside the active picture: bars, or the surround, which then fills the whole frame.
        bar_colour: of those bars.
        name: what the people who order it call it; may be empty.
    """

    width: Side
    height: Side
    pixel_aspect: Annotated[PositiveExact, Field(le=10, ge=Fraction(1, 10))] = Fraction(1)
    active: Annotated[PositiveExact, Field(ge=Fraction(1, 10), le=10)] | None = None
    outside: Literal["bars", "surround"] = "bars"
    bar_colour: ColourText = "#000000"
    name: Annotated[str, Field(max_length=80)] = ""

    @property
    def raster(self) -> Raster:
        """The frame as a grid of pixels."""
        return Raster(self.width, self.height, self.pixel_aspect)

    @property
    def active_rect(self) -> FrameRect:
        """The active picture, exact: what pictures are placed in."""
        return FrameRect.whole(self.raster) if self.active is None else active_picture(self.raster, self.active)

    @property
    def drawn_rect(self) -> FrameRect:
        """The active picture as it is drawn, its sides even."""
        return drawn_even(self.raster, self.active_rect)

    @property
    def surround_rect(self) -> FrameRect:
        """What a surround fills."""
        return self.active_rect if self.outside == "bars" else FrameRect.whole(self.raster)


FRAMES = (
    Frame(name="Wide", width=1920, height=1080),  # ITU-R BT.709
    Frame(name="Upright", width=1080, height=1920),  # BT.709's raster turned; common practice, no source
    Frame(name="Square", width=1080, height=1080),  # common practice, no source
    Frame(name="4:3", width=1440, height=1080),  # 4:3 at BT.709's height; common practice, no source
)
"""Frames offered before anyone has made their own."""
