"""Where a picture sits in its frame, at every moment of its clip."""

from abc import ABC, abstractmethod
from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from itertools import pairwise
from typing import Protocol

from cadrage.geometry import FrameRect, Placed
from cadrage.motion.pose import Pose, Stage

TimeSpan = tuple[Fraction, Fraction]
"""From a time to another, in seconds of the clip."""


class PlacementTrack(ABC):
    """A placement over time."""

    @property
    @abstractmethod
    def constant(self) -> bool:
        """Whether it is the same at every moment."""

    @abstractmethod
    def at(self, time: Fraction) -> Placed:
        """The placement at a time, in seconds of the clip. While it stands the very same value is given."""

    @abstractmethod
    def taken(self, span: TimeSpan) -> FrameRect:
        """The smallest rectangle, in frame pixels, that holds the picture as it is turned at every moment of a span."""

    @abstractmethod
    def extent(self, span: TimeSpan) -> FrameRect:
        """The smallest rectangle, in frame pixels, that holds the picture, unturned, at every moment of a span."""


@dataclass(frozen=True, slots=True)
class ConstantTrack(PlacementTrack):
    """One placement for all of a clip."""

    placed: Placed

    @property
    def constant(self) -> bool:
        """It is."""
        return True

    def at(self, time: Fraction) -> Placed:
        """The one."""
        del time
        return self.placed

    def taken(self, span: TimeSpan) -> FrameRect:
        """Around where the picture is."""
        del span
        return FrameRect.around(self.placed.corners)

    def extent(self, span: TimeSpan) -> FrameRect:
        """Where the picture is."""
        del span
        return self.placed.rect


class PoseOverTime(Protocol):
    """Where the frame looks, at every moment.

    Attributes:
        times: moments at which its behaviour changes, in their order.
    """

    @property
    def times(self) -> Sequence[Fraction]:
        """Moments at which its behaviour changes, in their order."""

    def at(self, time: Fraction) -> Pose:
        """The pose at a time, in seconds of the clip."""


class MovingTrack(PlacementTrack):
    """A placement that moves.

    Args:
        poses: where the frame looks.
        stage: that it looks at.
        inside: whether the window is held inside the picture wherever its size allows.
    """

    def __init__(self, poses: PoseOverTime, stage: Stage, *, inside: bool) -> None:
        self._poses, self._stage, self._inside = poses, stage, inside
        self._held: tuple[Pose, Placed] | None = None

    @property
    def constant(self) -> bool:
        """It is not."""
        return False

    @property
    def times(self) -> Sequence[Fraction]:
        """Moments at which its behaviour changes."""
        return self._poses.times

    def pose(self, time: Fraction) -> Pose:
        """Where the frame looks at a time."""
        pose = self._poses.at(time)
        return self._stage.held(pose) if self._inside else pose

    def holds(self, time: Fraction) -> bool:
        """Whether the window is held inside the picture then, and would look elsewhere."""
        return self._inside and self._stage.held(pose := self._poses.at(time)) != pose

    def empty_at(self, time: Fraction) -> bool:
        """Whether something beside the picture shows though it would fill the frame at that size."""
        pose = self.pose(time)
        return self._stage.held(pose) != pose

    def reach(self, time: Fraction) -> tuple[Fraction, Fraction] | None:
        """How far the frame may look from the picture's middle then, in parts of it; see `Stage.reach`."""
        pose = self.pose(time)
        return self._stage.reach(pose.scale, pose.angle)

    def at(self, time: Fraction) -> Placed:
        """The placement at a time."""
        pose = self.pose(time)
        if self._held is None or self._held[0] != pose:
            self._held = (pose, self._stage.placed(pose))
        return self._held[1]

    def taken(self, span: TimeSpan) -> FrameRect:
        """What holds it, as it is turned, at every moment that was looked at: see `extent`."""
        return FrameRect.around([corner for time in moments(span, self.times) for corner in self.at(time).corners])

    def extent(self, span: TimeSpan) -> FrameRect:
        """What holds the picture at every moment that was looked at: the span's ends, keys, and evenly between them."""
        return around([self.at(time).rect for time in moments(span, self._poses.times)])


def around(rects: Sequence[FrameRect]) -> FrameRect:
    """The smallest rectangle that holds all of some."""
    return FrameRect.around([corner for one in rects for corner in ((one.x, one.y), (one.right, one.bottom))])


def moments(span: TimeSpan, keys: Sequence[Fraction], between: int = 16) -> list[Fraction]:
    """Moments of a span at which something that moves is looked at: its ends, every key, and `between` in each gap."""
    start, end = span
    marks = sorted({start, end, *(time for time in keys if start < time < end)})
    found = [a + (b - a) * number / between for a, b in pairwise(marks) for number in range(between)]
    return [*found, marks[-1]]
