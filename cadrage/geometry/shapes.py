"""Rasters and rectangles. Values are frozen; all lengths are Fractions; equality is exact."""

from dataclasses import dataclass
from fractions import Fraction
from typing import Self


@dataclass(frozen=True, slots=True)
class Raster:
    """A grid of stored pixels, upright as it is looked at.

    Attributes:
        width: pixels across, at least 1.
        height: pixels down, at least 1.
        pixel_aspect: width of one pixel divided by its height.
    """

    width: int
    height: int
    pixel_aspect: Fraction = Fraction(1)

    @property
    def display_width(self) -> Fraction:
        """Width in square pixels of the raster's own height."""
        return self.width * self.pixel_aspect

    @property
    def display_aspect(self) -> Fraction:
        """Width over height as it is seen."""
        return self.display_width / self.height

    def turned(self, degrees: int) -> "Raster":
        """The raster after turning by a multiple of 90 degrees: sides and pixel shape change places."""
        return self if degrees % 180 == 0 else Raster(self.height, self.width, 1 / self.pixel_aspect)


@dataclass(frozen=True, slots=True)
class Rect:
    """An axis-aligned rectangle; x and y name its upper left corner."""

    x: Fraction
    y: Fraction
    width: Fraction
    height: Fraction

    @property
    def right(self) -> Fraction:
        """X of the right edge."""
        return self.x + self.width

    @property
    def bottom(self) -> Fraction:
        """Y of the lower edge."""
        return self.y + self.height

    @property
    def area(self) -> Fraction:
        """Width times height."""
        return self.width * self.height

    def clipped(self, other: Self) -> Self:
        """The part that lies inside another rectangle of the same space; zero sized where they do not meet."""
        left, top = max(self.x, other.x), max(self.y, other.y)
        width = max(Fraction(0), min(self.right, other.right) - left)
        height = max(Fraction(0), min(self.bottom, other.bottom) - top)
        return type(self)(left, top, width, height)


class FrameRect(Rect):
    """A rectangle in pixels of the frame to deliver."""

    __slots__ = ()

    @classmethod
    def whole(cls, frame: Raster) -> "FrameRect":
        """The rectangle that is the frame itself."""
        return cls(Fraction(0), Fraction(0), Fraction(frame.width), Fraction(frame.height))


class SourceRect(Rect):
    """A rectangle in stored pixels of the upright source picture."""

    __slots__ = ()
