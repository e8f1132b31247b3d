"""The one door to pictures: a reader for whatever a piece of footage is."""

from pathlib import Path

from cadrage.footage.interpretation import Interpretation
from cadrage.footage.media_info import MediaInfo
from cadrage.footage.pictures import PictureReader
from cadrage.footage.reader import ClipReader
from cadrage.footage.stills import StillReader


def open_footage(
    path: Path, info: MediaInfo, interpretation: Interpretation | None = None, *, rough: bool = False
) -> PictureReader:
    """A reader for a clip, a still or a sequence of stills; `rough` as in `ClipReader`. Use it as a context manager.

    Raises:
        MissingSource, UnreadableFile: see each.
    """
    if info.kind == "clip":
        return ClipReader(path, info, interpretation, rough=rough)
    return StillReader(path, info, interpretation)
