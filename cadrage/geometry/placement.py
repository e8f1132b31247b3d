"""Where the picture sits in the frame, and how large."""

from dataclasses import dataclass
from fractions import Fraction
from typing import Annotated, Literal

from pydantic import Field

from cadrage.geometry.shapes import FrameRect, Opening, Picture, Raster, SourceRect
from cadrage.geometry.turning import Point, Turn, clipped_to_box, turn_of
from cadrage.values import Exact, Value

MAX_TIGHTNESS = 8
MAX_OFFSET = 10**9
MAX_SCALE = 100
MAX_ANGLE = 45

Sizing = Literal["tightness", "width", "height", "native", "scale", "cover", "stretch"]


class Placement(Value):
    """Where and how large the picture sits.

    Attributes:
        sizing: how its size is found. "tightness": see there. "width" and "height": that side meets the frame's.
            "native": one source line is one frame line. "scale": by `scale`. "cover": the least that leaves nothing
            of the frame empty at this angle and offset. "stretch": both sides meet the frame's, which distorts the
            picture; never unless asked for.
        scale: frame lines for one source line, where `sizing` is "scale"; 1/100 to 100.
        tightness: 0 is the whole picture, 1 fills the frame; between them the scale grows evenly. Past 1 it is
            the multiple of the filling scale, so 2 is twice as large as fill. Range 0 to 8.
        offset_x: how far the picture's centre lies right of the frame's centre, in frame pixels.
        offset_y: how far it lies below, in frame pixels.
        angle: degrees clockwise that the picture is turned about its own centre, to straighten it; -45 to 45.
        mirror: whether left and right of the picture change places.
    """

    sizing: Sizing = "tightness"
    scale: Annotated[Exact, Field(ge=Fraction(1, MAX_SCALE), le=MAX_SCALE)] = Fraction(1)
    tightness: Annotated[Exact, Field(ge=0, le=MAX_TIGHTNESS)] = Fraction(0)
    offset_x: Annotated[Exact, Field(ge=-MAX_OFFSET, le=MAX_OFFSET)] = Fraction(0)
    offset_y: Annotated[Exact, Field(ge=-MAX_OFFSET, le=MAX_OFFSET)] = Fraction(0)
    angle: Annotated[Exact, Field(ge=-MAX_ANGLE, le=MAX_ANGLE)] = Fraction(0)
    mirror: bool = False


class PlacementLimits(Value):
    """How far values of a placement go, for whoever offers them; see `Placement`."""

    tightness: int = MAX_TIGHTNESS
    scale: int = MAX_SCALE
    offset: int = MAX_OFFSET
    angle: int = MAX_ANGLE


@dataclass(frozen=True, slots=True)
class Placed:
    """A picture placed in a frame.

    Attributes:
        picture: the part of the upright source that is the picture.
        frame: the raster delivered.
        opening: the part of it that pictures are placed in: the active picture, or all of it.
        scale: frame lines for one source line.
        tightness: the tightness that gives this scale, or the nearest there is.
        rect: where the picture lands before it is turned about its centre, in frame pixels; it may reach past the
            frame.
        angle: degrees clockwise that it is turned.
        mirror: whether it is mirrored.
    """

    picture: Picture
    frame: Raster
    opening: Opening
    scale: Fraction
    tightness: Fraction
    rect: FrameRect
    angle: Fraction = Fraction(0)
    mirror: bool = False

    @property
    def turn(self) -> Turn:
        """How the picture is turned."""
        return turn_of(self.angle)

    def to_source(self, part: FrameRect) -> SourceRect:
        """The source pixels, counted from the picture's own corner, that land on a part of the frame.

        Outside the picture: beyond its edges. Of a picture that is turned or mirrored, as if it were not.
        """
        across = self.picture.width / self.rect.width
        down = self.picture.height / self.rect.height
        return SourceRect(
            (part.x - self.rect.x) * across, (part.y - self.rect.y) * down, part.width * across, part.height * down
        )

    def spread(self, rect: FrameRect, part: SourceRect) -> FrameRect:
        """Where a part of the source raster lands when the picture lands, unturned, on a rectangle of the frame.

        Args:
            rect: where the picture lands.
            part: in stored pixels of the upright raster, like `Picture.rect`; it may reach past the picture.
        """
        whole = self.picture.rect
        across, down = rect.width / whole.width, rect.height / whole.height
        before = whole.right - part.right if self.mirror else part.x - whole.x
        return FrameRect(
            rect.x + before * across, rect.y + (part.y - whole.y) * down, part.width * across, part.height * down
        )

    @property
    def corners(self) -> tuple[Point, ...]:
        """The picture's corners as they land, in frame pixels, clockwise from the upper left one."""
        rect, pixel = self.rect, self.frame.pixel_aspect
        middle = (rect.x + rect.width / 2, rect.y + rect.height / 2)
        half = (rect.width * pixel / 2, rect.height / 2)
        turned = [self.turn.apply((x * half[0], y * half[1])) for x, y in ((-1, -1), (1, -1), (1, 1), (-1, 1))]
        return tuple((middle[0] + x / pixel, middle[1] + y) for x, y in turned)

    def seen_on_picture(self) -> list[Point]:
        """The part of the picture that is seen, as a convex polygon of source pixels from the picture's centre."""
        area, rect, pixel = self.opening.rect, self.rect, self.frame.pixel_aspect
        centre = (rect.x + rect.width / 2, rect.y + rect.height / 2)
        corners = [(area.x, area.y), (area.right, area.y), (area.right, area.bottom), (area.x, area.bottom)]
        turned = [self.turn.back.apply(((x - centre[0]) * pixel, y - centre[1])) for x, y in corners]
        across = self.picture.width / (rect.width * pixel) * (-1 if self.mirror else 1)
        down = self.picture.height / rect.height
        on_picture = [(x * across, y * down) for x, y in turned]
        return clipped_to_box(on_picture, self.picture.width / 2, self.picture.height / 2)


def whole_scale(picture: Picture, opening: Opening) -> Fraction:
    """The largest scale at which nothing of the picture is lost, in frame lines for one source line."""
    return min(opening.display_width / picture.display_width, opening.height / picture.height)


def fill_scale(picture: Picture, opening: Opening) -> Fraction:
    """The smallest scale at which nothing of the frame is left empty, in frame lines for one source line."""
    return max(opening.display_width / picture.display_width, opening.height / picture.height)


def cover_scale(picture: Picture, opening: Opening, placement: Placement) -> Fraction:
    """The smallest scale at which a picture, turned and moved as placed, leaves nothing of the opening empty.

    Every corner of the opening, turned back about the picture's centre, must lie inside the picture.
    """
    turn = turn_of(placement.angle).back
    shift = (-placement.offset_x * opening.pixel_aspect, -placement.offset_y)
    half = (opening.display_width / 2, opening.height / 2)
    corners = [(shift[0] + x * half[0], shift[1] + y * half[1]) for x in (-1, 1) for y in (-1, 1)]
    turned = [turn.apply(corner) for corner in corners]
    return max(max(2 * abs(x) / picture.display_width, 2 * abs(y) / picture.height) for x, y in turned)


def scale_at(picture: Picture, opening: Opening, tightness: Fraction) -> Fraction:
    """The scale at a tightness; see `Placement.tightness`."""
    whole, fill = whole_scale(picture, opening), fill_scale(picture, opening)
    return fill * tightness if tightness > 1 else whole + (fill - whole) * tightness


def centred(picture: Picture, opening: Opening, scale: Fraction, offset_x: Fraction, offset_y: Fraction) -> FrameRect:
    """The picture at a scale, its centre at an offset in frame pixels from the opening's centre."""
    width = picture.display_width * scale / opening.pixel_aspect
    height = picture.height * scale
    rect = opening.rect
    return FrameRect(
        rect.x + (rect.width - width) / 2 + offset_x, rect.y + (rect.height - height) / 2 + offset_y, width, height
    )


def tightness_at(picture: Picture, opening: Opening, scale: Fraction) -> Fraction:
    """The tightness that gives a scale; 0 where the scale is smaller than any tightness gives."""
    whole, fill = whole_scale(picture, opening), fill_scale(picture, opening)
    if scale >= fill:
        return min(scale / fill, Fraction(MAX_TIGHTNESS)) if scale > fill or whole == fill else Fraction(1)
    return max((scale - whole) / (fill - whole), Fraction(0)) if fill > whole else Fraction(0)


def scale_of(picture: Picture, opening: Opening, placement: Placement) -> Fraction:
    """Frame lines for one source line under a placement."""
    if placement.sizing == "tightness":
        return scale_at(picture, opening, placement.tightness)
    if placement.sizing == "width":
        return opening.display_width / picture.display_width
    if placement.sizing == "scale":
        return placement.scale
    if placement.sizing == "cover":
        return cover_scale(picture, opening, placement)
    return Fraction(1) if placement.sizing == "native" else opening.height / picture.height


def place(picture: Raster | Picture, frame: Raster, placement: Placement, active: FrameRect | None = None) -> Placed:
    """Place a picture in a frame, or in the active picture inside it. Exact: nothing is rounded."""
    shape = Picture.whole(picture) if isinstance(picture, Raster) else picture
    opening = Opening(active or FrameRect.whole(frame), frame.pixel_aspect)
    scale = scale_of(shape, opening, placement)
    if placement.sizing == "stretch":
        area = opening.rect
        rect = FrameRect(area.x + placement.offset_x, area.y + placement.offset_y, area.width, area.height)
    else:
        rect = centred(shape, opening, scale, placement.offset_x, placement.offset_y)
    tightness = tightness_at(shape, opening, scale)
    return Placed(shape, frame, opening, scale, tightness, rect, placement.angle, placement.mirror)
