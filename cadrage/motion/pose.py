"""A placement as a camera operator sees it: which point of the picture the frame looks at, how large, how turned."""

from dataclasses import dataclass, replace
from fractions import Fraction

from cadrage.geometry import FrameRect, Opening, Picture, Placed, Placement, Raster, place, turn_of, window_of
from cadrage.geometry.placement import MAX_SCALE, scale_at, tightness_at
from cadrage.geometry.turning import brief


@dataclass(frozen=True, slots=True)
class Pose:
    """Where the frame looks.

    Attributes:
        x, y: the point of the picture in the middle of the frame's opening, as the picture is stored, counted from
            its centre in parts of its width and height: -1/2 is its left or upper edge, 1/2 the other. They mean the
            same in every frame and at every size.
        scale: frame lines for one source line.
        angle: degrees clockwise that the picture is turned.
    """

    x: Fraction
    y: Fraction
    scale: Fraction
    angle: Fraction


@dataclass(frozen=True, slots=True)
class Stage:
    """What poses are taken in: a picture, the frame it goes into, and a placement to begin from.

    Attributes:
        picture, frame, active: see `place`.
        base: the placement; its `mirror` says how the picture is seen in all.
    """

    picture: Picture
    frame: Raster
    active: FrameRect | None
    base: Placement

    @property
    def opening(self) -> Opening:
        """The part of the frame that pictures are placed in."""
        return Opening(self.active or FrameRect.whole(self.frame), self.frame.pixel_aspect)

    @property
    def at_rest(self) -> Placed:
        """The picture as the placement alone puts it."""
        return place(self.picture, self.frame, self.base, self.active)

    @property
    def pose(self) -> Pose:
        """The placement as a pose."""
        placed = self.at_rest
        return replace(pose_of(placed), angle=self.base.angle)

    def with_base(self, placement: Placement) -> "Stage":
        """The same from another placement, seen the same way round."""
        return replace(self, base=placement.model_copy(update={"mirror": self.base.mirror}))

    def scale_at(self, tightness: Fraction) -> Fraction:
        """The scale at a tightness."""
        return scale_at(self.picture, self.opening, tightness)

    def tightness_at(self, scale: Fraction) -> Fraction:
        """The tightness that gives a scale, or the nearest there is."""
        return tightness_at(self.picture, self.opening, scale)

    def placement(self, pose: Pose) -> Placement:
        """The placement that takes a pose; one that stretches the picture keeps stretching it, at any scale."""
        size: dict[str, object] = {}
        if self.base.sizing != "stretch":
            scale = min(max(pose.scale, Fraction(1, MAX_SCALE)), Fraction(MAX_SCALE))
            size = {"sizing": "scale", "scale": scale}
        still = {"offset_x": Fraction(0), "offset_y": Fraction(0), "angle": pose.angle}
        sized = self.base.model_copy(update=size | still)
        rect, pixel = place(self.picture, self.frame, sized, self.active).rect, self.frame.pixel_aspect
        side = -1 if sized.mirror else 1
        x, y = turn_of(pose.angle).apply((side * pose.x * rect.width * pixel, pose.y * rect.height))
        offset = {"offset_x": brief(-x / pixel), "offset_y": brief(-y)}
        return sized.model_copy(update=offset)

    def placed(self, pose: Pose) -> Placed:
        """The picture in a pose."""
        return place(self.picture, self.frame, self.placement(pose), self.active)

    def slack(self, scale: Fraction, angle: Fraction) -> tuple[Fraction, Fraction]:
        """How far `x` and `y` may go either way before the picture's edge meets the frame's opening.

        Less than 0 where the picture does not reach across it. The corners of the opening are turned back onto the
        picture, and must lie inside it.
        """
        turn, opening = turn_of(angle), self.opening
        half = opening.display_width / 2, opening.height / 2
        across = abs(turn.cos) * half[0] + abs(turn.sin) * half[1]
        down = abs(turn.sin) * half[0] + abs(turn.cos) * half[1]
        return (
            Fraction(1, 2) - across / (self.picture.display_width * scale),
            Fraction(1, 2) - down / (self.picture.height * scale),
        )

    def reach(self, scale: Fraction, angle: Fraction) -> tuple[Fraction, Fraction] | None:
        """The same where nothing beside the picture need be shown at that size; None where it is anyway."""
        x, y = self.slack(scale, angle)
        return (x, y) if x >= 0 and y >= 0 else None

    def held(self, pose: Pose) -> Pose:
        """The nearest pose of the same size and angle that shows nothing beside the picture; itself where none does."""
        reach = self.reach(pose.scale, pose.angle)
        if reach is None:
            return pose
        x, y = (min(max(at, -most), most) for at, most in zip((pose.x, pose.y), reach, strict=True))
        return replace(pose, x=x, y=y)


def pose_of(placed: Placed) -> Pose:
    """A placed picture as a pose."""
    window, picture = window_of(placed), placed.picture
    return Pose(
        x=window.x / picture.width - Fraction(1, 2),
        y=window.y / picture.height - Fraction(1, 2),
        scale=placed.scale,
        angle=placed.angle,
    )
