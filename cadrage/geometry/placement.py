"""Where the picture sits in the frame, and how large."""

from dataclasses import dataclass
from fractions import Fraction
from typing import Annotated, Literal

from pydantic import Field

from cadrage.geometry.shapes import FrameRect, Raster, SourceRect
from cadrage.values import Exact, Value

MAX_TIGHTNESS = 8
MAX_OFFSET = 10**9
MAX_SCALE = 100


Sizing = Literal["tightness", "width", "height", "native", "scale", "stretch"]


class Placement(Value):
    """Where and how large the picture sits.

    Attributes:
        sizing: how its size is found. "tightness": see there. "width" and "height": that side meets the frame's.
            "native": one source line is one frame line. "scale": by `scale`. "stretch": both sides meet the frame's,
            which distorts the picture; never unless asked for.
        scale: frame lines for one source line, where `sizing` is "scale"; 1/100 to 100.
        tightness: 0 is the whole picture, 1 fills the frame; between them the scale grows evenly. Past 1 it is
            the multiple of the filling scale, so 2 is twice as large as fill. Range 0 to 8.
        offset_x: how far the picture's centre lies right of the frame's centre, in frame pixels.
        offset_y: how far it lies below, in frame pixels.
    """

    sizing: Sizing = "tightness"
    scale: Annotated[Exact, Field(ge=Fraction(1, MAX_SCALE), le=MAX_SCALE)] = Fraction(1)
    tightness: Annotated[Exact, Field(ge=0, le=MAX_TIGHTNESS)] = Fraction(0)
    offset_x: Annotated[Exact, Field(ge=-MAX_OFFSET, le=MAX_OFFSET)] = Fraction(0)
    offset_y: Annotated[Exact, Field(ge=-MAX_OFFSET, le=MAX_OFFSET)] = Fraction(0)


@dataclass(frozen=True, slots=True)
class Placed:
    """A picture placed in a frame.

    Attributes:
        picture: the source raster, upright.
        frame: the raster delivered.
        scale: frame lines for one source line.
        tightness: the tightness that gives this scale, or the nearest there is.
        rect: where the picture lands, in frame pixels; it may reach past the frame.
    """

    picture: Raster
    frame: Raster
    scale: Fraction
    tightness: Fraction
    rect: FrameRect

    def to_source(self, part: FrameRect) -> SourceRect:
        """The stored source pixels that land on a part of the frame (outside the picture: beyond its edges)."""
        across = self.picture.width / self.rect.width
        down = self.picture.height / self.rect.height
        return SourceRect(
            (part.x - self.rect.x) * across, (part.y - self.rect.y) * down, part.width * across, part.height * down
        )


def whole_scale(picture: Raster, frame: Raster) -> Fraction:
    """The largest scale at which nothing of the picture is lost, in frame lines for one source line."""
    return min(frame.display_width / picture.display_width, Fraction(frame.height, picture.height))


def fill_scale(picture: Raster, frame: Raster) -> Fraction:
    """The smallest scale at which nothing of the frame is left empty, in frame lines for one source line."""
    return max(frame.display_width / picture.display_width, Fraction(frame.height, picture.height))


def scale_at(picture: Raster, frame: Raster, tightness: Fraction) -> Fraction:
    """The scale at a tightness; see `Placement.tightness`."""
    whole, fill = whole_scale(picture, frame), fill_scale(picture, frame)
    return fill * tightness if tightness > 1 else whole + (fill - whole) * tightness


def centred(picture: Raster, frame: Raster, scale: Fraction, offset_x: Fraction, offset_y: Fraction) -> FrameRect:
    """The picture at a scale, its centre at an offset in frame pixels from the frame's centre."""
    width = picture.display_width * scale / frame.pixel_aspect
    height = picture.height * scale
    return FrameRect((frame.width - width) / 2 + offset_x, (frame.height - height) / 2 + offset_y, width, height)


def tightness_at(picture: Raster, frame: Raster, scale: Fraction) -> Fraction:
    """The tightness that gives a scale; 0 where the scale is smaller than any tightness gives."""
    whole, fill = whole_scale(picture, frame), fill_scale(picture, frame)
    if scale >= fill:
        return min(scale / fill, Fraction(MAX_TIGHTNESS)) if scale > fill or whole == fill else Fraction(1)
    return max((scale - whole) / (fill - whole), Fraction(0)) if fill > whole else Fraction(0)


def scale_of(picture: Raster, frame: Raster, placement: Placement) -> Fraction:
    """Frame lines for one source line under a placement."""
    if placement.sizing == "tightness":
        return scale_at(picture, frame, placement.tightness)
    if placement.sizing == "width":
        return frame.display_width / picture.display_width
    if placement.sizing == "scale":
        return placement.scale
    return Fraction(1) if placement.sizing == "native" else Fraction(frame.height, picture.height)


def place(picture: Raster, frame: Raster, placement: Placement) -> Placed:
    """Place a picture in a frame. Exact: nothing is rounded."""
    scale = scale_of(picture, frame, placement)
    if placement.sizing == "stretch":
        size = Fraction(frame.width), Fraction(frame.height)
        rect = FrameRect(placement.offset_x, placement.offset_y, *size)
    else:
        rect = centred(picture, frame, scale, placement.offset_x, placement.offset_y)
    return Placed(picture, frame, scale, tightness_at(picture, frame, scale), rect)
