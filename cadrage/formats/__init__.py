"""Source formats and frames to deliver, as data."""

from cadrage.formats.frames import FRAMES, Frame
from cadrage.formats.sources import SOURCES, SourceFormat

__all__ = ["FRAMES", "SOURCES", "Frame", "SourceFormat"]
