"""Finding out what a file is."""

from fractions import Fraction
from itertools import pairwise
from pathlib import Path

import av
from av.audio.stream import AudioStream
from av.container import InputContainer
from av.video.frame import VideoFrame
from av.video.stream import VideoStream

from cadrage.errors import RasterOutOfRange, UnreadableFile
from cadrage.footage.container import COPY_AGAIN, opened, picture_stream
from cadrage.footage.facts import FIELD_ORDER_OF_CODE, Facts, SoundFacts
from cadrage.footage.stills import is_still, probe_sequence, probe_still
from cadrage.footage.turning import turn_of_display
from cadrage.formats.frames import MAX_SIDE, MIN_SIDE

FALLBACK_RATE = Fraction(25)  # a file of one frame that states no rate; common practice, no source


def probe(path: Path | str) -> Facts:
    """Find out what a file is: its header is read, its packets counted and its first picture decoded.

    A folder is taken as a sequence of numbered stills.

    Raises:
        MissingSource, UnreadableFile, RasterOutOfRange: see each.
    """
    path = Path(path)
    if path.is_dir():
        return probe_sequence(path)
    if path.is_file() and is_still(path):
        return probe_still(path)
    with opened(path) as container:
        stream = picture_stream(container, path)
        _check_raster(stream, path)
        packets = _packets(container, stream, path)
        first = _first_picture(path)
        return _facts(container, stream, packets, first)


def picture_times(path: Path) -> list[Fraction]:
    """When each picture of a clip comes, in seconds from the first.

    Raises:
        MissingSource, UnreadableFile: see `probe`.
    """
    with opened(path) as container:
        stream = picture_stream(container, path)
        tick = stream.time_base or Fraction(1, 1000)
        shown = [time for time, _ in _packets(container, stream, path)]
    return [(time - shown[0]) * tick for time in shown]


def _check_raster(stream: VideoStream, path: Path) -> None:
    width, height = stream.codec_context.width, stream.codec_context.height
    if not (MIN_SIDE <= width <= MAX_SIDE and MIN_SIDE <= height <= MAX_SIDE):
        raise RasterOutOfRange(
            f"The picture is {width}×{height}; sides from {MIN_SIDE} to {MAX_SIDE} pixels can be read.",
            remedy="Scale the clip to such a size first.",
            clip=path,
        )


def _packets(container: InputContainer, stream: VideoStream, path: Path) -> list[tuple[int, int]]:
    """Presentation time and duration of every picture, in ticks, in the order they are shown.

    Raises:
        UnreadableFile: the file ends before its header says it should.
    """
    shown: list[tuple[int, int]] = []
    try:
        for packet in container.demux(stream):
            if packet.size and not packet.is_discard:  # what an edit list hides is decoded but never shown
                time = packet.pts if packet.pts is not None else packet.dts
                shown.append((time if time is not None else len(shown), packet.duration or 0))
    except av.FFmpegError as error:
        raise _cut_short(path, len(shown), stream.frames) from error
    if not shown or len(shown) < stream.frames * 0.99:
        raise _cut_short(path, len(shown), stream.frames)
    return sorted(shown)


def _cut_short(path: Path, found: int, stated: int) -> UnreadableFile:
    said = f"{found} of {stated} frames can be read" if stated else f"only {found} frames can be read"
    return UnreadableFile(f"The file is cut short or damaged: {said}.", remedy=COPY_AGAIN, clip=path)


def _first_picture(path: Path) -> VideoFrame:
    """Decode one picture, which also proves that this can be done."""
    with opened(path) as container:
        try:
            for frame in container.decode(picture_stream(container, path)):
                return frame
        except (av.FFmpegError, ValueError) as error:
            raise UnreadableFile("Its pictures cannot be decoded.", remedy=COPY_AGAIN, clip=path) from error
    raise UnreadableFile("It holds no picture that can be decoded.", remedy=COPY_AGAIN, clip=path)


def _facts(container: InputContainer, stream: VideoStream, packets: list[tuple[int, int]], first: VideoFrame) -> Facts:
    context = stream.codec_context
    tick = stream.time_base or Fraction(1, 1000)
    gaps = [(later[0] - earlier[0]) * tick for earlier, later in pairwise(packets)]
    stated = stream.guessed_rate or stream.average_rate
    rate = _rate(stated, gaps)
    frame_length = 1 / rate
    start, (last, last_length) = packets[0][0], packets[-1]
    turned = turn_of_display(first)
    components = first.format.components
    return Facts(
        container=container.format.name,
        codec=context.codec.canonical_name,  # of the codec, whichever decoder reads it
        width=context.width,
        height=context.height,
        pixel_aspect=stream.sample_aspect_ratio or context.sample_aspect_ratio or None,
        stream_aspect=context.sample_aspect_ratio or None,
        rotation=turned.nearest,
        rotation_flag=turned.degrees,
        mirrored=turned.mirrored,
        rate=rate,
        rate_stated=bool(stated),
        rate_varies=any(abs(gap - frame_length) > tick + frame_length / 100 for gap in gaps),
        shortest_frame=min(gaps, default=frame_length),
        longest_frame=max(gaps, default=frame_length),
        duration=(last - start) * tick + (last_length * tick or frame_length),
        frames=len(packets),
        field_order=FIELD_ORDER_OF_CODE.get(context.field_order, "unknown"),
        pixel_format=first.format.name,
        depth=components[0].bits,
        chroma=_chroma_name(first),
        matrix=int(context.colorspace or 2),
        primaries=int(context.color_primaries or 2),
        transfer=int(context.color_trc or 2),
        full_range=int(context.color_range) == 2 or first.format.name.startswith("yuvj"),
        sounds=tuple(_sound(sound, start * tick) for sound in container.streams.audio),
    )


def _rate(stated: Fraction | None, gaps: list[Fraction]) -> Fraction:
    if stated:
        return Fraction(stated)
    whole = sum(gaps, Fraction(0))
    return len(gaps) / whole if whole > 0 else FALLBACK_RATE


def _chroma_name(frame: VideoFrame) -> str:
    """The trade's name of the chroma format, from the sizes of the planes of a frame."""
    chroma = [component for component in frame.format.components if component.is_chroma]
    if not chroma:
        return "4:4:4" if frame.format.is_rgb else "4:0:0"
    across, down = round(frame.width / chroma[0].width), round(frame.height / chroma[0].height)
    return {(1, 1): "4:4:4", (2, 1): "4:2:2", (2, 2): "4:2:0", (4, 1): "4:1:1"}.get((across, down), "other")


def _sound(stream: AudioStream, picture_start: Fraction) -> SoundFacts:
    tick = stream.time_base or Fraction(1, stream.rate)
    return SoundFacts(
        codec=stream.codec_context.name,
        rate=stream.rate,
        channels=stream.codec_context.channels,
        start=(stream.start_time or 0) * tick - picture_start,
        duration=None if stream.duration is None else stream.duration * tick,
    )
