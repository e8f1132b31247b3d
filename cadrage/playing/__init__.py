"""Finished frames with their sound in real time, as a stream that a browser plays."""

from cadrage.playing.request import PlayRequest
from cadrage.playing.stream import PlayStream

__all__ = ["PlayRequest", "PlayStream"]
