"""The other view of a placement: what the frame shows of the picture, as a rectangle on the picture."""

from fractions import Fraction
from math import atan2, degrees

from cadrage.errors import BadRequest
from cadrage.geometry.placement import MAX_SCALE, Placed, Placement, place
from cadrage.geometry.shapes import FrameRect, Picture, Raster
from cadrage.geometry.turning import brief, turn_of
from cadrage.values import Exact, Value


class Window(Value):
    """What the frame's opening shows of the picture; it may reach past the picture's edges.

    Attributes:
        x, y: its centre, in source pixels from the picture's upper left corner, as stored.
        width, height: its sides, in source pixels.
        angle: degrees clockwise that it is turned on the picture.
    """

    x: Exact
    y: Exact
    width: Exact
    height: Exact
    angle: Exact = Fraction(0)

    def corners(self, pixel_aspect: Fraction) -> tuple[tuple[Fraction, Fraction], ...]:
        """Its corners in source pixels from the picture's corner, clockwise from its upper left before it is turned.

        Args:
            pixel_aspect: of the source; it turns in true shape.
        """
        half = self.width / 2 * pixel_aspect, self.height / 2
        turn = turn_of(self.angle)
        turned = (turn.apply((x * half[0], y * half[1])) for x, y in ((-1, -1), (1, -1), (1, 1), (-1, 1)))
        return tuple((self.x + x / pixel_aspect, self.y + y) for x, y in turned)


def window_of(placed: Placed) -> Window:
    """The window that a placement opens on the picture."""
    rect, area, picture, pixel = placed.rect, placed.opening.rect, placed.picture, placed.frame.pixel_aspect
    across, down = picture.width / rect.width, picture.height / rect.height
    to_centre = (
        (area.x + area.width / 2 - rect.x - rect.width / 2) * pixel,
        area.y + area.height / 2 - rect.y - rect.height / 2,
    )
    x, y = placed.turn.back.apply(to_centre)
    side = -1 if placed.mirror else 1
    return Window(
        x=brief(picture.width / 2 + side * x / pixel * across),
        y=brief(picture.height / 2 + y * down),
        width=area.width * across,
        height=area.height * down,
        angle=-side * placed.angle,
    )


def placement_for(
    window: Window, picture: Picture, frame: Raster, before: Placement, active: FrameRect | None = None
) -> Placement:
    """The placement that opens a window: its centre and its height count, its shape is the opening's.

    Angle and mirroring are kept from the placement before, whose `mirror` says how the picture is seen in all.

    Raises:
        BadRequest: the window has no height.
    """
    if window.height <= 0:
        raise BadRequest("A window without a height shows nothing.", remedy="Draw it larger.")
    opening = active or FrameRect.whole(frame)
    scale = min(max(opening.height / window.height, Fraction(1, MAX_SCALE)), Fraction(MAX_SCALE))
    size = {"sizing": "scale", "scale": scale, "offset_x": Fraction(0), "offset_y": Fraction(0)}
    sized = before.model_copy(update=size)
    rect = place(picture, frame, sized, active).rect
    side = -1 if before.mirror else 1
    from_centre = (
        side * (window.x - picture.width / 2) * rect.width / picture.width * frame.pixel_aspect,
        (window.y - picture.height / 2) * rect.height / picture.height,
    )
    x, y = turn_of(before.angle).apply(from_centre)
    return sized.model_copy(update={"offset_x": brief(-x / frame.pixel_aspect), "offset_y": brief(-y)})


def angle_of_line(across: Fraction, down: Fraction) -> Fraction:
    """Degrees clockwise to turn a picture so that a line drawn on it lies level, or upright where that is nearer.

    Args:
        across: from one end of the line to the other, in square pixels as the picture is seen.
        down: the same downwards.
    """
    drawn = degrees(atan2(down, across))
    nearest = round(drawn / 90) * 90
    return Fraction(f"{nearest - drawn:.4f}")
