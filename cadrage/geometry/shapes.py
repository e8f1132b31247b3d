"""Rasters and rectangles. Values are frozen; all lengths are Fractions; equality is exact."""

from collections.abc import Iterable
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

    def scaled(self, factor: Fraction) -> Self:
        """So much larger about its centre."""
        width, height = self.width * factor, self.height * factor
        return type(self)(self.x + (self.width - width) / 2, self.y + (self.height - height) / 2, width, height)

    def moved(self, right: Fraction, down: Fraction) -> Self:
        """The same elsewhere."""
        return type(self)(self.x + right, self.y + down, self.width, self.height)


class FrameRect(Rect):
    """A rectangle in pixels of the frame to deliver."""

    __slots__ = ()

    @classmethod
    def whole(cls, frame: Raster) -> "FrameRect":
        """The rectangle that is the frame itself."""
        return cls(Fraction(0), Fraction(0), Fraction(frame.width), Fraction(frame.height))

    @classmethod
    def around(cls, points: Iterable[tuple[Fraction, Fraction]]) -> "FrameRect":
        """The smallest upright rectangle around some points."""
        across, down = zip(*points, strict=True)
        left, top = min(across), min(down)
        return cls(left, top, max(across) - left, max(down) - top)


@dataclass(frozen=True, slots=True)
class Opening:
    """The part of a frame that pictures are placed in.

    Attributes:
        rect: where it lies, in frame pixels.
        pixel_aspect: width of a frame pixel over its height.
    """

    rect: FrameRect
    pixel_aspect: Fraction

    @property
    def display_width(self) -> Fraction:
        """Its width in square pixels of a frame line's height."""
        return self.rect.width * self.pixel_aspect

    @property
    def height(self) -> Fraction:
        """Its height in frame lines."""
        return self.rect.height


class SourceRect(Rect):
    """A rectangle in stored pixels of the upright source picture."""

    __slots__ = ()


@dataclass(frozen=True, slots=True)
class Picture:
    """The part of an upright source raster that is taken as the picture: all of it, or less its bars and its blanking.

    Attributes:
        rect: where it lies, in stored pixels of the upright raster.
        pixel_aspect: width of one stored pixel divided by its height.
    """

    rect: SourceRect
    pixel_aspect: Fraction

    @classmethod
    def whole(cls, raster: Raster) -> "Picture":
        """All of a raster."""
        rect = SourceRect(Fraction(0), Fraction(0), Fraction(raster.width), Fraction(raster.height))
        return cls(rect, raster.pixel_aspect)

    @property
    def width(self) -> Fraction:
        """Stored pixels across."""
        return self.rect.width

    @property
    def height(self) -> Fraction:
        """Stored pixels down."""
        return self.rect.height

    @property
    def display_width(self) -> Fraction:
        """Width in square pixels of a stored line's height."""
        return self.rect.width * self.pixel_aspect

    @property
    def display_aspect(self) -> Fraction:
        """Width over height as it is seen."""
        return self.display_width / self.height


def active_picture(frame: Raster, aspect: Fraction) -> FrameRect:
    """The largest rectangle of a display aspect in the middle of a frame. Exact: 803.347… lines for 2.39 in 1920."""
    width = min(Fraction(frame.width), frame.height * aspect / frame.pixel_aspect)
    height = min(Fraction(frame.height), frame.display_width / aspect)
    return FrameRect((frame.width - width) / 2, (frame.height - height) / 2, width, height)


def drawn_even(frame: Raster, rect: FrameRect) -> FrameRect:
    """A centred rectangle with its sides brought to the nearest even number, as it is drawn: 804 for 803.347…."""
    width = min(frame.width, 2 * round(rect.width / 2)) if rect.width < frame.width else frame.width
    height = min(frame.height, 2 * round(rect.height / 2)) if rect.height < frame.height else frame.height
    across, down = Fraction(frame.width - width, 2), Fraction(frame.height - height, 2)
    return FrameRect(across, down, Fraction(width), Fraction(height))
