"""Opening files that strangers send."""

from collections.abc import Iterator
from contextlib import closing, contextmanager, nullcontext
from pathlib import Path
from typing import Any

import av
from av.audio.stream import AudioStream
from av.container import InputContainer
from av.video.stream import VideoStream

from cadrage.errors import MissingSource, NoPicture, UnreadableFile
from cadrage.footage.bounds import checked
from cadrage.footage.boxes import MAX_DEPTH, Movie, read_movie
from cadrage.footage.clusters import FromCluster
from cadrage.footage.media_info import first_name

DEMUXERS = (
    *("mov", "matroska", "avi", "mpegts", "mpeg", "mxf", "dv", "yuv4mpegpipe", "ogg"),
    *("asf", "flv", "gxf", "ivf", "nut", "mpegvideo", "h264", "hevc", "gif"),
)
"""Containers that hold their own pictures. Playlists and scripts, which name other files, are not among them."""

MOST_EDITS = 2_000
LAYOUTS = {1: "mono", 2: "stereo", 3: "3.0", 4: "4.0", 5: "5.0", 6: "5.1", 7: "6.1", 8: "7.1"}
"""Usual layouts by their number of channels (ISO/IEC 14496-3, table 1.19; from memory)."""

COPY_AGAIN = "Copy it again from where it came, or export it anew."


@contextmanager
def opened(path: Path, since: FromCluster | None = None) -> Iterator[InputContainer]:
    """Open a file for reading, with named demuxers and the file protocol only.

    Args:
        path: the file.
        since: the same as something to be read, from where it shall be read; from its start where None.

    Raises:
        MissingSource: there is no such file.
        UnreadableFile: it is empty, damaged, or no footage.
    """
    if not path.is_file():
        raise MissingSource("The file is not there.", remedy="Put it back, or choose another.", clip=path)
    if path.stat().st_size == 0:
        raise UnreadableFile("The file is empty.", remedy=COPY_AGAIN, clip=path)
    movie = _movie(path)
    limits = {"format_whitelist": _whitelist(), "protocol_whitelist": "file"}
    try:
        source: Any = f"file:{path.resolve()}" if since is None else since
        with checked(path):
            container: InputContainer = av.open(source, "r", container_options=limits)
    except (av.FFmpegError, ValueError) as error:
        raise UnreadableFile(
            "This is no footage that can be read: it is damaged, cut short, or of another kind.",
            remedy=COPY_AGAIN,
            clip=path,
        ) from error
    with container, closing(since) if since else nullcontext():
        _plain_layouts(container, movie)
        yield container


def _movie(path: Path) -> Movie:
    movie = read_movie(path)
    if movie.edits > MOST_EDITS:
        raise UnreadableFile(
            f"Its edit list has {movie.edits:,} entries; {MOST_EDITS:,} can be read.",
            remedy="Export it anew, as one piece.",
            clip=path,
        )
    if movie.depth > MAX_DEPTH:
        raise UnreadableFile(
            f"Its boxes are nested more than {MAX_DEPTH} deep, as in no real movie.",
            remedy="Export it again from the program that made it.",
            clip=path,
        )
    return movie


def _plain_layouts(container: InputContainer, movie: Movie) -> None:
    """Take channels that are listed one by one as the usual ones of their number; see `boxes`."""
    for number, channels in enumerate(movie.channels[: len(container.streams)]):
        stream = container.streams[number]
        if channels and isinstance(stream, AudioStream) and stream.codec_context is not None:
            stream.codec_context.layout = LAYOUTS.get(channels, f"{channels} channels")


def demuxer_of(container: InputContainer) -> str:
    """The first of the names that a container format goes by."""
    return first_name(container.format.name)


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
