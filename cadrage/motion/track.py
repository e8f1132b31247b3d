"""Where a picture sits in its frame, at every moment of its clip."""

from abc import ABC, abstractmethod
from dataclasses import dataclass
from fractions import Fraction

from cadrage.geometry import FrameRect, Placed

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

    def extent(self, span: TimeSpan) -> FrameRect:
        """Where the picture is."""
        del span
        return self.placed.rect
