"""Where the picture sits in the frame, and how large."""

from dataclasses import dataclass
from fractions import Fraction
from typing import Annotated, Literal

from pydantic import Field

from cadrage.geometry.shapes import FrameRect, Opening, Raster, SourceRect
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
        opening: the part of it that pictures are placed in: the active picture, or all of it.
        scale: frame lines for one source line.
        tightness: the tightness that gives this scale, or the nearest there is.
        rect: where the picture lands, in frame pixels; it may reach past the frame.
    """

    picture: Raster
    frame: Raster
    opening: Opening
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


def whole_scale(picture: Raster, opening: Opening) -> Fraction:
    """The largest scale at which nothing of the picture is lost, in frame lines for one source line."""
    return min(opening.display_width / picture.display_width, opening.height / picture.height)


def fill_scale(picture: Raster, opening: Opening) -> Fraction:
    """The smallest scale at which nothing of the frame is left empty, in frame lines for one source line."""
    return max(opening.display_width / picture.display_width, opening.height / picture.height)


def scale_at(picture: Raster, opening: Opening, tightness: Fraction) -> Fraction:
    """The scale at a tightness; see `Placement.tightness`."""
    whole, fill = whole_scale(picture, opening), fill_scale(picture, opening)
    return fill * tightness if tightness > 1 else whole + (fill - whole) * tightness


def centred(picture: Raster, opening: Opening, scale: Fraction, offset_x: Fraction, offset_y: Fraction) -> FrameRect:
    """The picture at a scale, its centre at an offset in frame pixels from the opening's centre."""
    width = picture.display_width * scale / opening.pixel_aspect
    height = picture.height * scale
    rect = opening.rect
    return FrameRect(
        rect.x + (rect.width - width) / 2 + offset_x, rect.y + (rect.height - height) / 2 + offset_y, width, height
    )


def tightness_at(picture: Raster, opening: Opening, scale: Fraction) -> Fraction:
    """The tightness that gives a scale; 0 where the scale is smaller than any tightness gives."""
    whole, fill = whole_scale(picture, opening), fill_scale(picture, opening)
    if scale >= fill:
        return min(scale / fill, Fraction(MAX_TIGHTNESS)) if scale > fill or whole == fill else Fraction(1)
    return max((scale - whole) / (fill - whole), Fraction(0)) if fill > whole else Fraction(0)


def scale_of(picture: Raster, opening: Opening, placement: Placement) -> Fraction:
    """Frame lines for one source line under a placement."""
    if placement.sizing == "tightness":
        return scale_at(picture, opening, placement.tightness)
    if placement.sizing == "width":
        return opening.display_width / picture.display_width
    if placement.sizing == "scale":
        return placement.scale
    return Fraction(1) if placement.sizing == "native" else opening.height / picture.height


def place(picture: Raster, frame: Raster, placement: Placement, active: FrameRect | None = None) -> Placed:
    """Place a picture in a frame, or in the active picture inside it. Exact: nothing is rounded."""
    opening = Opening(active or FrameRect.whole(frame), frame.pixel_aspect)
    scale = scale_of(picture, opening, placement)
    if placement.sizing == "stretch":
        area = opening.rect
        rect = FrameRect(area.x + placement.offset_x, area.y + placement.offset_y, area.width, area.height)
    else:
        rect = centred(picture, opening, scale, placement.offset_x, placement.offset_y)
    return Placed(picture, frame, opening, scale, tightness_at(picture, opening, scale), rect)
