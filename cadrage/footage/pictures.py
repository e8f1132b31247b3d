"""Pictures as they come out of footage, and what every reader of them offers."""

from abc import ABC, abstractmethod
from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction
from types import TracebackType
from typing import Self

from cadrage.pixels.planes import Planes


@dataclass(frozen=True, slots=True)
class DecodedFrame:
    """One picture of a clip, as stored; fields have become whole frames.

    Attributes:
        time: seconds from the clip's first picture, exact.
        end: when the next picture comes, as far as this one knows.
        planes: the samples, before rotation.
    """

    time: Fraction
    end: Fraction
    planes: Planes


class PictureReader(ABC):
    """Reads the pictures of one piece of footage; one thread at a time. Use it as a context manager."""

    def __enter__(self) -> Self:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self.close()

    @abstractmethod
    def close(self) -> None:
        """Let go of the file."""

    @property
    @abstractmethod
    def picture_start(self) -> Fraction:
        """The first picture's own time stamp in seconds, from which every time here counts."""

    @abstractmethod
    def frames(self) -> Iterator[DecodedFrame]:
        """Every picture from the first, in the order shown."""

    @abstractmethod
    def frame_at(self, time: Fraction) -> DecodedFrame:
        """The picture that is on screen at a time: the last that does not come after it, else the first."""

    @abstractmethod
    def frames_from(self, time: Fraction) -> Iterator[DecodedFrame]:
        """The picture that is on screen at a time, and every one after it."""
