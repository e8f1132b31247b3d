"""Source formats, frames to deliver and guides to judge them by, as data."""

from cadrage.formats.frames import FIRST_FRAME, FRAME_FORMATS, Frame, FrameFormat, same_height, turned_upright
from cadrage.formats.guides import Delivery, Guide, Margins, guides_for
from cadrage.formats.sources import FILM_RATIOS, SOURCES, SQUEEZES, FilmRatio, SourceFormat

__all__ = [
    "FILM_RATIOS",
    "FIRST_FRAME",
    "FRAME_FORMATS",
    "SOURCES",
    "SQUEEZES",
    "Delivery",
    "FilmRatio",
    "Frame",
    "FrameFormat",
    "Guide",
    "Margins",
    "SourceFormat",
    "guides_for",
    "same_height",
    "turned_upright",
]
