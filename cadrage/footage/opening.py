"""The one door to pictures: a reader for whatever a piece of footage is."""

from pathlib import Path

from cadrage.footage.facts import Facts
from cadrage.footage.interpretation import Interpretation
from cadrage.footage.pictures import PictureReader
from cadrage.footage.reader import ClipReader
from cadrage.footage.stills import StillReader


def open_footage(path: Path, facts: Facts, interpretation: Interpretation | None = None) -> PictureReader:
    """A reader for a clip, a still or a sequence of stills. Use it as a context manager.

    Raises:
        MissingSource, UnreadableFile: see each.
    """
    kind = ClipReader if facts.kind == "clip" else StillReader
    return kind(path, facts, interpretation)
