"""Moves that need no keys: over the length of a shot, whatever that is. They turn into keys when that is wanted."""

from dataclasses import replace
from fractions import Fraction
from typing import Annotated, Literal

from pydantic import Field

from cadrage.geometry.placement import MAX_TIGHTNESS
from cadrage.motion.easing import Ease
from cadrage.motion.keys import Curve, Key
from cadrage.motion.pose import Pose, Stage
from cadrage.values import Exact, Value

MOST_PUSH = 100
SHORTEST = Fraction(1, 1_000_000)  # of a move over a single picture, in seconds


class Push(Value):
    """The picture grows, or shrinks to where it is placed, about the middle of the frame.

    Attributes:
        percent: how much larger it is at the end; of less than 0, at the beginning. So neither shows more beside the
            picture than the placement does.
        ease: how it goes there.
    """

    kind: Literal["push"] = "push"
    percent: Annotated[Exact, Field(ge=-MOST_PUSH, le=MOST_PUSH)] = Fraction(4)
    ease: Ease = "smooth"

    @property
    def summary(self) -> str:
        """The move in few words."""
        return f"push {'in' if self.percent >= 0 else 'out'}, {float(abs(self.percent)):g}%"


class Pan(Value):
    """The window goes from one edge of the picture to the other.

    Attributes:
        way: from which side to which.
        ease: how it goes there.
        beyond: whether it also moves where the picture is no wider than the frame, with the surround beside it; else
            nothing moves there.
    """

    kind: Literal["pan"] = "pan"
    way: Literal["left_right", "right_left"] = "left_right"
    ease: Ease = "smooth"
    beyond: bool = False

    @property
    def summary(self) -> str:
        """The move in few words."""
        return "pan to the right" if self.way == "left_right" else "pan to the left"


class Tilt(Value):
    """The window goes from the top of the picture to its bottom, or up.

    Attributes:
        way: from which side to which.
        ease: how it goes there.
        beyond: as in `Pan`.
    """

    kind: Literal["tilt"] = "tilt"
    way: Literal["up_down", "down_up"] = "up_down"
    ease: Ease = "smooth"
    beyond: bool = False

    @property
    def summary(self) -> str:
        """The move in few words."""
        return "tilt down" if self.way == "up_down" else "tilt up"


Move = Annotated[Push | Pan | Tilt, Field(discriminator="kind")]

FORWARD = ("left_right", "up_down")


def ends_of(move: Push | Pan | Tilt, stage: Stage) -> tuple[Pose, Pose]:
    """The poses in which a move begins and ends."""
    pose = stage.pose
    if isinstance(move, Push):
        larger = replace(pose, scale=pose.scale * (1 + abs(move.percent) / 100))
        return (pose, larger) if move.percent >= 0 else (larger, pose)
    axis = "x" if isinstance(move, Pan) else "y"
    least, most = _edges(stage, pose, axis, beyond=move.beyond)
    begin, end = (replace(pose, **{axis: at}) for at in ((least, most) if move.way in FORWARD else (most, least)))
    return begin, end


def _edges(stage: Stage, pose: Pose, axis: str, *, beyond: bool) -> tuple[Fraction, Fraction]:
    """How far a pose may go along an axis: until the picture's edge meets the frame's."""
    at = getattr(pose, axis)
    whole = stage.base.sizing == "stretch"
    most = Fraction(0) if whole else stage.slack(pose.scale, pose.angle)[0 if axis == "x" else 1]
    if most < 0 and not beyond:
        return at, at
    return -abs(most), abs(most)


class MovedPose:
    """A pose over time, from a move over one shot.

    Args:
        move: to apply.
        stage: where.
        start: time of the shot's first picture.
        last: time of its last.
    """

    def __init__(self, move: Push | Pan | Tilt, stage: Stage, start: Fraction, last: Fraction) -> None:
        begin, end = ends_of(move, stage)
        self.times = (start, last)
        self._begin = begin
        self._gone = Curve([(start, Fraction(0), move.ease), (max(last, start + SHORTEST), Fraction(1), "even")])
        self._way = {name: getattr(end, name) - getattr(begin, name) for name in ("x", "y", "scale")}

    def at(self, time: Fraction) -> Pose:
        """The pose at a time, in seconds of the clip."""
        gone = self._gone.at(time)
        return replace(
            self._begin, **{name: getattr(self._begin, name) + way * gone for name, way in self._way.items() if way}
        )


def keys_of(move: Push | Pan | Tilt, stage: Stage, start: Fraction, last: Fraction) -> tuple[Key, ...]:
    """The keys that do the same in one shot: one on its first picture, one on its last.

    Args:
        move: to apply.
        stage: where.
        start: time of the shot's first picture.
        last: time of its last.
    """
    begin, end = ends_of(move, stage)
    times = (start, max(last, start))
    made = tuple(_key(pose, time, move, stage) for pose, time in zip((begin, end), times, strict=True))
    return made if last > start else made[:1]


def _key(pose: Pose, time: Fraction, move: Push | Pan | Tilt, stage: Stage) -> Key:
    if isinstance(move, Push):
        return Key(time=time, tightness=min(stage.tightness_at(pose.scale), Fraction(MAX_TIGHTNESS)), ease=move.ease)
    return Key(time=time, x=pose.x, y=pose.y, ease=move.ease)
