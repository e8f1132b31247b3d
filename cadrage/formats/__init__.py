"""Frames to deliver, as data."""

from cadrage.formats.frames import FRAMES, Frame

__all__ = ["FRAMES", "Frame"]
