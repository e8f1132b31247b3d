"""Opening files that strangers send."""

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import av
from av.container import InputContainer
from av.video.stream import VideoStream

from cadrage.errors import MissingSource, NoPicture, UnreadableFile

DEMUXERS = ("mov", "matroska", "avi", "mpegts", "mpeg", "mxf", "dv", "yuv4mpegpipe", "ogg")
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
    """The stream that holds the moving picture, never a cover image.

    Raises:
        NoPicture: there is none.
    """
    for stream in container.streams.video:
        attached = stream.disposition & av.stream.Disposition.attached_pic
        if not attached and stream.codec_context is not None:
            return stream
    raise NoPicture("The file holds no moving picture.", remedy="Choose a file with a picture in it.", clip=path)


def _whitelist() -> str:
    """Every alias of the named demuxers, as libavformat's format_whitelist wants them."""
    aliases = {
        "mov": "mov,mp4,m4a,3gp,3g2,mj2",
        "matroska": "matroska,webm",
    }
    return ",".join(aliases.get(name, name) for name in DEMUXERS)
