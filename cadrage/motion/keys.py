"""Keys: a placement set for a moment, and what comes of several."""

from bisect import bisect_right
from collections.abc import Iterable, Sequence
from dataclasses import replace
from fractions import Fraction
from typing import Annotated, Self

from pydantic import Field, model_validator

from cadrage.geometry.placement import MAX_ANGLE, MAX_TIGHTNESS
from cadrage.motion.easing import Ease, Handles, eased
from cadrage.motion.pose import Pose, Stage
from cadrage.values import Exact, Value

MOST_KEYS = 1000
FARTHEST = 100
"""How far a key may look past the picture, in its widths and heights."""
At = Annotated[Exact, Field(ge=-FARTHEST, le=FARTHEST)]


class Key(Value):
    """A placement at one moment; None leaves a value to other keyframes.

    Attributes:
        time: seconds of the clip from its first picture.
        x, y: the point of the picture in the middle of the frame; see `Pose`. Both are set, or neither is.
        tightness: how large the picture is; see `Placement`.
        angle: degrees clockwise that it is turned.
        ease: how each value goes on to the next key that sets it.
        handles: a custom curve instead.
    """

    time: Annotated[Exact, Field(ge=0, le=7 * 24 * 3600)]
    x: At | None = None
    y: At | None = None
    tightness: Annotated[Exact, Field(ge=0, le=MAX_TIGHTNESS)] | None = None
    angle: Annotated[Exact, Field(ge=-MAX_ANGLE, le=MAX_ANGLE)] | None = None
    ease: Ease = "smooth"
    handles: Handles | None = None

    @model_validator(mode="after")
    def _position_whole(self) -> Self:
        if (self.x is None) != (self.y is None):
            raise ValueError("a key sets both x and y, or neither")
        return self

    @property
    def way(self) -> Ease | Handles:
        """Its easing to the next keyframe."""
        return self.handles or self.ease


def key_of(stage: Stage, time: Fraction, ease: Ease = "smooth") -> Key:
    """The key that holds the stage's placement at a time: its place, its size, and its angle."""
    pose = stage.pose
    tightness = min(stage.tightness_at(pose.scale), Fraction(MAX_TIGHTNESS))
    return Key(time=time, x=pose.x, y=pose.y, tightness=tightness, angle=pose.angle, ease=ease)


class Curve:
    """One value over time: keyed moments and what it is there. Before the first and after the last it stands.

    Args:
        points: time, value and how it goes on, in the order of time; at least one.
    """

    def __init__(self, points: Sequence[tuple[Fraction, Fraction, Ease | Handles]]) -> None:
        self._points = list(points)
        self._times = [time for time, _, _ in points]

    def at(self, time: Fraction) -> Fraction:
        """The value at a time; at a key exactly the key's."""
        after = bisect_right(self._times, time)
        if after == 0:
            return self._points[0][1]
        begun, value, way = self._points[after - 1]
        if after == len(self._points) or begun == time:
            return value
        ends, then, _ = self._points[after]
        return value + (then - value) * eased(way, (time - begun) / (ends - begun))


class KeyedPose:
    """A pose over time, from keys; what no key sets is as the stage's placement has it.

    Sizes go evenly by scale, not by tightness, which has a bend where the picture fills the frame.

    Args:
        keys: in any order.
        stage: what they are keys of.
    """

    def __init__(self, keys: Sequence[Key], stage: Stage) -> None:
        self._base = stage.pose
        self.times = tuple(sorted(key.time for key in keys))
        ordered = sorted(keys, key=lambda key: key.time)
        self._x = _curve((key, key.x) for key in ordered)
        self._y = _curve((key, key.y) for key in ordered)
        sized = ((key, None if key.tightness is None else stage.scale_at(key.tightness)) for key in ordered)
        self._scale = _curve(sized)
        self._angle = _curve((key, key.angle) for key in ordered)

    def at(self, time: Fraction) -> Pose:
        """The pose at a time, in seconds of the clip."""
        found = {"x": self._x, "y": self._y, "scale": self._scale, "angle": self._angle}
        return replace(self._base, **{name: curve.at(time) for name, curve in found.items() if curve})


def _curve(points: Iterable[tuple[Key, Fraction | None]]) -> Curve | None:
    set_points = [(key.time, value, key.way) for key, value in points if value is not None]
    return Curve(set_points) if set_points else None
