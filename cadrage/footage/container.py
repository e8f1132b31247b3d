"""Opening files that strangers send."""

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import av
from av.container import InputContainer
from av.video.stream import VideoStream

from cadrage.errors import MissingSource, NoPicture, UnreadableFile

DEMUXERS = (
    *("mov", "matroska", "avi", "mpegts", "mpeg", "mxf", "dv", "yuv4mpegpipe", "ogg"),
    *("asf", "flv", "gxf", "ivf", "nut", "mpegvideo", "h264", "hevc", "gif"),
)
"""Containers that hold their own pictures. Playlists and scripts, which name other files, are not among them."""

COPY_AGAIN = "Copy it again from where it came, or export it anew."


@contextmanager
def opened(path: Path) -> Iterator[InputContainer]:
    """Open a file for reading, with named demuxers and the file protocol only.

    Raises:
        MissingSource: there is no such file.
        UnreadableFile: it is empty, damaged, or no footage.
    """
    if not path.is_file():
        raise MissingSource("The file is not there.", remedy="Put it back, or choose another.", clip=path)
    if path.stat().st_size == 0:
        raise UnreadableFile("The file is empty.", remedy=COPY_AGAIN, clip=path)
    limits = {"format_whitelist": _whitelist(), "protocol_whitelist": "file"}
    try:
        container = av.open(f"file:{path.resolve()}", container_options=limits)
    except (av.FFmpegError, ValueError) as error:
        raise UnreadableFile(
            "This is no footage that can be read: it is damaged, cut short, or of another kind.",
            remedy=COPY_AGAIN,
            clip=path,
        ) from error
    with container:
        yield container


def picture_stream(container: InputContainer, path: Path) -> VideoStream:
    """The stream that holds the moving picture: of several, the one marked as the usual, then the largest.

    Cover images do not count.

    Raises:
        NoPicture: there is none.
    """
    streams = moving_pictures(container)
    if not streams:
        raise NoPicture("The file holds no moving picture.", remedy="Choose a file with a picture in it.", clip=path)
    return max(streams, key=_preference)


def moving_pictures(container: InputContainer) -> list[VideoStream]:
    """The streams of pictures that can be decoded, without cover images."""
    attached = av.stream.Disposition.attached_pic
    return [one for one in container.streams.video if not one.disposition & attached and one.codec_context is not None]


def _preference(stream: VideoStream) -> tuple[bool, int, int]:
    usual = bool(stream.disposition & av.stream.Disposition.default)
    return usual, (stream.codec_context.width or 0) * (stream.codec_context.height or 0), -stream.index


def _whitelist() -> str:
    """Every alias of the named demuxers, as libavformat's format_whitelist wants them."""
    aliases = {
        "mov": "mov,mp4,m4a,3gp,3g2,mj2",
        "matroska": "matroska,webm",
    }
    return ",".join(aliases.get(name, name) for name in DEMUXERS)
