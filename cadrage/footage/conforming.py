"""Pictures that change their size or their samples in the middle of a clip, brought to those of the first."""

from fractions import Fraction
from pathlib import Path

from av.video.frame import VideoFrame

from cadrage.errors import UnreadableFile
from cadrage.footage.media_info import MediaInfo

SAME_SHAPE = Fraction(1, 50)
"""Share by which a picture of another size may differ in shape and still count as the same picture, scaled."""


class Conform:
    """Brings every picture to the size and the samples of the first.

    A picture of another size but the same shape is scaled. Of another shape it would be squeezed: where the clip
    changes so for good that is refused, and a single one is damage and left out.

    Args:
        info: what the clip is.
        path: of it, for messages.
    """

    def __init__(self, info: MediaInfo, path: Path) -> None:
        self._facts, self._path = info, path

    def apply(self, frame: VideoFrame) -> VideoFrame | None:
        """The picture as the others are; itself where it is, None where it is damaged.

        Raises:
            UnreadableFile: it is of another shape.
        """
        info = self._facts
        same_size = (frame.width, frame.height) == (info.width, info.height)
        if same_size and frame.format.name == info.pixel_format:
            return frame
        if not same_size and not same_shape(frame, info.width, info.height):
            if any(one.kind == "size_changes" for one in info.findings):
                raise self._squeezed(frame)
            return None
        made = frame.reformat(width=info.width, height=info.height, format=info.pixel_format)
        made.pts, made.time_base, made.duration = frame.pts, frame.time_base, frame.duration
        return made

    def _squeezed(self, frame: VideoFrame) -> UnreadableFile:
        return UnreadableFile(
            f"Its picture changes size to {frame.width}×{frame.height} on the way.",
            remedy="Split it where the size changes.",
            clip=self._path,
        )


def same_shape(frame: VideoFrame, width: int, height: int) -> bool:
    """Whether a picture is of the same shape as a raster, whatever its size."""
    return abs(Fraction(frame.width * height, frame.height * width) - 1) <= SAME_SHAPE
