"""Rasters that carry lines of the vertical interval above the picture."""

from fractions import Fraction

VERTICAL_INTERVAL = {(720, 608): 32, (720, 512): 32}
"""Lines above the picture, by stored width and height. SMPTE ST 356 and 386 (MPEG-2 at 30 to 50 Mb/s on tape, in MXF):
576 or 480 lines of picture below 32 that carry time code and test signals; from memory."""


def interval_lines(width: int, height: int) -> int:
    """Return how many stored lines at the top are no picture; 0 of most rasters."""
    return VERTICAL_INTERVAL.get((width, height), 0)


def picture_lines(width: int, height: int) -> int:
    """Return how many stored lines are picture."""
    return height - interval_lines(width, height)


def aspect_of_picture(stated: Fraction | None, width: int, height: int) -> Fraction | None:
    """Return the pixel aspect of a raster whose file states the shape of its picture.

    Readers divide that shape by all stored lines; where some are no picture, pixels come out too wide.
    """
    return None if stated is None else stated * picture_lines(width, height) / height
