"""Where the picture sits in the frame, and how large."""

from dataclasses import dataclass
from fractions import Fraction
from typing import Annotated

from pydantic import Field

from cadrage.geometry.shapes import FrameRect, Raster, SourceRect
from cadrage.values import Exact, Value

MAX_TIGHTNESS = 8
MAX_OFFSET = 10**9


class Placement(Value):
    """Where and how large the picture sits.

    Attributes:
        tightness: 0 is the whole picture, 1 fills the frame; between them the scale grows evenly. Past 1 it is
            the multiple of the filling scale, so 2 is twice as large as fill. Range 0 to 8.
        offset_x: how far the picture's centre lies right of the frame's centre, in frame pixels.
        offset_y: how far it lies below, in frame pixels.
    """

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
        rect: where the picture lands, in frame pixels; it may reach past the frame.
    """

    picture: Raster
    frame: Raster
    scale: Fraction
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


def place(picture: Raster, frame: Raster, placement: Placement) -> Placed:
    """Place a picture in a frame. Exact: nothing is rounded."""
    scale = scale_at(picture, frame, placement.tightness)
    rect = centred(picture, frame, scale, placement.offset_x, placement.offset_y)
    return Placed(picture, frame, scale, rect)
