"""Frames to deliver: their size, pixels, active picture, rate and colour."""

from fractions import Fraction
from typing import Annotated, Literal

from pydantic import Field

from cadrage.formats.aspect_names import aspect_name
from cadrage.geometry import FrameRect, Picture, Raster, active_picture, drawn_even
from cadrage.values import ColourText, PositiveExact, Rate, Value, VisibleText

MIN_SIDE = 16
MAX_SIDE = 8192
MIN_ASPECT, MAX_ASPECT = Fraction(1, 10), Fraction(10)
"""Range of the display aspect of an active picture, and of a frame that is derived from an aspect."""

FrameColour = Literal["sdr", "bt2020", "hlg", "pq"]
HDR_COLOURS = ("hlg", "pq")
Side = Annotated[int, Field(ge=MIN_SIDE, le=MAX_SIDE)]


class Frame(Value):
    """A frame to deliver clips in.

    Attributes:
        width, height: stored pixels, 16 to 8192 a side (8192 holds the 7680×4320 of ITU-R BT.2020).
        pixel_aspect: width of one pixel over its height.
        active: display aspect of the active picture inside the frame, such as 2.39; None is the whole frame.
        outside: bars around the active picture, or the surround, which then fills the whole frame.
        bar_colour: colour of these bars.
        rate: frames a second; None keeps each clip's own.
        fields: whether pictures are whole, or pairs of fields a half picture's time apart, and which is shown first.
        colour: SDR of BT.601 or BT.709, by its lines; SDR of BT.2020; or HDR of BT.2100, with HLG or PQ.
        name: what the people who order it call it; may be empty.
    """

    width: Side
    height: Side
    pixel_aspect: Annotated[PositiveExact, Field(le=10, ge=Fraction(1, 10))] = Fraction(1)
    active: Annotated[PositiveExact, Field(ge=MIN_ASPECT, le=MAX_ASPECT)] | None = None
    outside: Literal["bars", "surround"] = "bars"
    bar_colour: ColourText = "#000000"
    rate: Rate | None = None
    fields: Literal["progressive", "upper_first", "lower_first"] = "progressive"
    colour: FrameColour = "sdr"
    name: Annotated[VisibleText, Field(max_length=80)] = ""

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
    def hdr(self) -> bool:
        """Whether it holds more light than the white of graphics."""
        return self.colour in HDR_COLOURS

    @property
    def has_bars(self) -> bool:
        """Whether bars are drawn around its active picture."""
        return self.active is not None and self.outside == "bars"

    @property
    def surround_rect(self) -> FrameRect:
        """The part that a surround fills."""
        return self.active_rect if self.outside == "bars" else FrameRect.whole(self.raster)


class FrameFormat(Value):
    """A frame that is offered.

    Attributes:
        frame: the frame.
        group: under which heading.
        source: where it is published.
    """

    frame: Frame
    group: str
    source: str


BT709, BT2020, DCI = "ITU-R BT.709", "ITU-R BT.2020", "DCI Digital Cinema System Specification"
ST296 = "SMPTE ST 296"
BT601 = "ITU-R BT.601-7, pixel aspect of ITU-T H.264 table E-1"
PRACTICE = "common practice, no source"

_ROWS = (
    ("Wide", "Wide 720", 1280, 720, "1", ST296),
    ("Wide", "Wide", 1920, 1080, "1", BT709),
    ("Wide", "Wide UHD", 3840, 2160, "1", BT2020),
    ("Upright", "Upright 720", 720, 1280, "1", f"{ST296}, turned; {PRACTICE}"),
    ("Upright", "Upright", 1080, 1920, "1", f"{BT709}, turned; {PRACTICE}"),
    ("Upright", "Upright UHD", 2160, 3840, "1", f"{BT2020}, turned; {PRACTICE}"),
    ("Square and 4:5", "Square", 1080, 1080, "1", PRACTICE),
    ("Square and 4:5", "4:5", 1080, 1350, "1", PRACTICE),
    ("4:3", "4:3, 480 lines", 640, 480, "1", PRACTICE),
    ("4:3", "4:3", 1440, 1080, "1", PRACTICE),
    ("4:3", "4:3 UHD", 2880, 2160, "1", PRACTICE),
    ("Cinema", "Cinema 1.85, 2K", 1998, 1080, "1", DCI),
    ("Cinema", "Cinema 1.85, 4K", 3996, 2160, "1", DCI),
    ("Cinema", "Cinema 2.39, 2K", 2048, 858, "1", DCI),
    ("Cinema", "Cinema 2.39, 4K", 4096, 1716, "1", DCI),
    ("21:9 monitors", "Ultrawide 1080", 2560, 1080, "1", PRACTICE),
    ("21:9 monitors", "Ultrawide 1440", 3440, 1440, "1", PRACTICE),
    ("Standard definition", "PAL SD 4:3 (625 lines)", 720, 576, "12/11", BT601),
    ("Standard definition", "PAL SD 16:9 (625 lines)", 720, 576, "16/11", BT601),
    ("Standard definition", "NTSC SD 4:3 (525 lines)", 720, 480, "10/11", BT601),
    ("Standard definition", "NTSC SD 16:9 (525 lines)", 720, 480, "40/33", BT601),
)

FRAME_FORMATS = tuple(
    FrameFormat(
        frame=Frame(name=name, width=width, height=height, pixel_aspect=Fraction(aspect)), group=group, source=source
    )
    for group, name, width, height, aspect, source in _ROWS
)
"""Frames offered before anyone has made their own. Published rasters are from memory."""

FIRST_FRAME = FRAME_FORMATS[1].frame
"""The frame of a new project."""


def turned_upright(frame: Frame) -> Frame:
    """A frame with its sides exchanged; its pixels turn with it."""
    sides = {"width": frame.height, "height": frame.width, "pixel_aspect": 1 / frame.pixel_aspect}
    active = None if frame.active is None else 1 / frame.active
    return frame.model_copy(update=sides | {"active": active, "name": f"{frame.name} turned".strip()})


def same_height(frame: Frame, aspect: Fraction) -> Frame:
    """A frame of the same height and square pixels in another display aspect; its width even.

    Raises:
        ValidationError: it would be wider or narrower than a frame can be.
    """
    width = 2 * round(frame.height * aspect / 2)
    return Frame(name=f"{frame.name} {aspect_name(aspect)}".strip(), width=width, height=frame.height)


class FrameSize(Value):
    """Width and height of a frame, in pixels."""

    width: Side
    height: Side


def size_like(picture: Picture) -> FrameSize:
    """Return the size of a frame of square pixels that has the shape of a picture and its number of lines.

    Both sides are even, and within the limits of a frame.
    """

    def side(length: Fraction) -> int:
        return min(MAX_SIDE, max(MIN_SIDE, 2 * round(length / 2)))

    return FrameSize(width=side(picture.display_width), height=side(picture.height))
