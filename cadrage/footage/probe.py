"""Probing: the properties of a media file."""

import re
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path

from av.audio.stream import AudioStream
from av.container import InputContainer
from av.sidedata.sidedata import Type
from av.stream import Stream
from av.video.frame import VideoFrame
from av.video.stream import VideoStream

from cadrage.errors import RasterOutOfRange, UnreadableFile
from cadrage.footage.blanking import aspect_of_picture
from cadrage.footage.container import COPY_AGAIN, demuxer_of, moving_pictures, opened, picture_stream
from cadrage.footage.hdr import content_light_of, mastering_of
from cadrage.footage.media_info import FIELD_ORDER_OF_CODE, MediaInfo, SoundInfo
from cadrage.footage.noticed import noticed
from cadrage.footage.scan import COUNTED, EDITED, WITHOUT_DECODING, Budget, Scan, SoundSpan, scan
from cadrage.footage.siting import siting_of
from cadrage.footage.still_files import is_still
from cadrage.footage.stills import probe_sequence, probe_still
from cadrage.footage.subtitles import subtitle_facts
from cadrage.footage.timecode import Timecode, group_code
from cadrage.footage.timing import BINDING, CONSTANT, Timing, evened, timing_of
from cadrage.footage.turning import turn_of_display
from cadrage.footage.unpack import is_grey, is_rgb, is_transparent
from cadrage.formats.frames import MAX_SIDE, MIN_SIDE
from cadrage.pixels.colour import UNREADABLE_MATRICES

WHILE_WAITING = Budget()


RANGE_OF_CODE = {1: False, 2: True}
"""libavutil's AVColorRange: limited and full; 0 is unspecified."""
LIMITED_UNLESS_FLAGGED = ("h264", "hevc", "av1", "vp9", "mpeg1video", "mpeg2video", "mpeg4", "vvc")
"""Codecs whose specification infers limited range where the stream does not flag one, also of grey pictures (ITU-T
H.264, E.2.1, video_full_range_flag; likewise the others; from memory). Grey pictures of other codecs, such as PNG, FFV1
or uncompressed ones, are full range unless flagged (common practice, no source)."""

MAX_PIXELS = 10**13
"""Of all pictures of a clip together: 1.4 hours of 7680×4320 at 60 frames a second."""
FROM_THE_START = ("gif", "apng")
"""Codecs each of whose pictures needs all before it."""
MAX_PIXELS_FROM_START = 2 * 10**11  # of these: 26 hours of 1920×1080 at one frame a second
MAX_LAST_PICTURE_S = 60  # longer than that the header is not believed

UNDETERMINED = "und"  # ISO 639-2
LONGEST_TITLE = 200
HANDLER = re.compile(r"handler|media|^#|^\W*$", re.IGNORECASE)
"""Names that writers of files give to every track (common practice, no source)."""


def probe(
    path: Path | str, *, thorough: bool = False, counted: bool = False, report: Callable[[float], None] | None = None
) -> MediaInfo:
    """Return the properties of a file.

    A short file is decoded to its end, for a second or two. Pictures of longer files are counted by their packets, and
    those of very long files are estimated, unless `thorough` or `counted` is set; `MediaInfo.counted` says how. A
    folder is read as a sequence of numbered stills. `report` is called with the fraction read so far, and may raise to
    stop.

    Raises:
        MissingSource, UnreadableFile, NoPicture, RasterOutOfRange: see each.
    """
    path = Path(path)
    if path.is_dir():
        return probe_sequence(path)
    if path.is_file() and is_still(path):
        return probe_still(path)
    budget = None if thorough else WITHOUT_DECODING if counted else WHILE_WAITING
    info, shuffled = _probed(path, budget, report, shuffled=False)
    return _probed(path, budget, report, shuffled=True)[0] if shuffled else info


def picture_times(path: Path, info: MediaInfo) -> list[Fraction]:
    """When each picture of a clip comes, in seconds from the first.

    Args:
        path: the file.
        info: its properties.

    Raises:
        MissingSource, UnreadableFile: see `probe`.
    """
    with opened(path) as container:
        # Packets tell as well, unless some cannot be decoded.
        decoded = bool(info.findings) or info.shown_by == "decoding"
        found = scan(container, path, info.shown_by, None if decoded else WITHOUT_DECODING)
        if demuxer_of(container) in COUNTED:
            found.times = evened(found.times, found.tick, info.rate)
        return [(time - found.times[0]) * found.tick for time in found.times]


def _probed(
    path: Path, budget: Budget | None, report: Callable[[float], None] | None, *, shuffled: bool
) -> tuple[MediaInfo, bool]:
    with opened(path) as container:
        stream = picture_stream(container, path)
        _check_raster(stream.codec_context.width, stream.codec_context.height, path)
        stated = _stated(stream)
        _check_matrix(stream, path)
        found = scan(container, path, "decoding" if shuffled else "presentation", budget, report)
        if found.first is None:
            raise UnreadableFile("It holds no picture that can be decoded.", remedy=COPY_AGAIN, clip=path)
        _check_raster(found.first.width, found.first.height, path)
        info = MediaInfo.model_validate(
            stated | _shown(found.first) | _timed(container, found, found.first) | _range(stated, found.first)
        )
        _check_length(info, path)
        return info, found.shuffled


def _check_length(info: MediaInfo, path: Path) -> None:
    most = MAX_PIXELS_FROM_START if info.codec in FROM_THE_START else MAX_PIXELS
    if info.width * info.height * info.frames > most:
        raise RasterOutOfRange(
            f"It has {info.frames} pictures of {info.width}×{info.height}, too many to decode.",
            remedy="Cut it into parts, or scale it down.",
            clip=path,
        )


def stated_size(path: Path) -> tuple[int, int]:
    """Return width and height in pixels as headers of a clip state them, without decoding anything.

    Raises:
        MissingSource, UnreadableFile, NoPicture: see `probe`.
    """
    with opened(path) as container:
        context = picture_stream(container, path).codec_context
        return context.width, context.height


def _check_raster(width: int, height: int, path: Path) -> None:
    if not (MIN_SIDE <= width <= MAX_SIDE and MIN_SIDE <= height <= MAX_SIDE):
        raise RasterOutOfRange(
            f"The picture is {width}×{height}; sides from {MIN_SIDE} to {MAX_SIDE} pixels can be read.",
            remedy="Scale the clip to such a size first.",
            clip=path,
        )


def _check_matrix(stream: VideoStream, path: Path) -> None:
    name = UNREADABLE_MATRICES.get(int(stream.codec_context.colorspace or 0))
    if name is not None:
        raise UnreadableFile(
            f"Its colours are stored as {name}, which Cadrage does not convert.",
            remedy="Convert the clip to the BT.709 or BT.2020 (non-constant luminance) matrix first.",
            clip=path,
        )


def _stated(stream: VideoStream) -> dict[str, object]:
    """What headers say; asked before anything is decoded, since decoders put what single pictures say in its place."""
    context = stream.codec_context
    size = context.width or 0, context.height or 1
    container_aspect = stream.sample_aspect_ratio or context.sample_aspect_ratio or None
    return {
        "container": stream.container.format.name,
        "codec": context.codec.canonical_name,  # the codec's name: several decoders read one codec
        "pixel_aspect": aspect_of_picture(container_aspect, *size),
        "stream_aspect": aspect_of_picture(context.sample_aspect_ratio or None, *size),
        "field_order": FIELD_ORDER_OF_CODE.get(context.field_order, "unknown"),
        "matrix": int(context.colorspace or 2),
        "primaries": int(context.color_primaries or 2),
        "transfer": int(context.color_trc or 2),
        "full_range": RANGE_OF_CODE.get(int(context.color_range)),
        "siting": siting_of(stream),
        "others": tuple(one.type for one in stream.container.streams if _is_other(one)),
    }


def _is_other(stream: Stream) -> bool:
    """Whether a stream is neither picture, nor sound, nor subtitles, nor time code."""
    return stream.type not in ("video", "audio", "subtitle") and not stream.metadata.get("timecode")


def _start_code(container: InputContainer, first: VideoFrame, rate: Fraction) -> str:
    """The time code of the first picture: of the file or one of its streams, else of the group it stands in."""
    stated = [container.metadata, *(stream.metadata for stream in container.streams)]
    for tags in stated:
        text = next((value for name, value in tags.items() if name.lower() == "timecode"), "")
        if (found := Timecode.read(text, rate)) is not None:
            return str(found)
    data = first.side_data.get(Type.GOP_TIMECODE)  # type: ignore[call-overload]
    found = None if data is None else group_code(bytes(data), rate)
    return str(found) if found is not None and found.number else ""  # which most encoders leave at nought


def _shown(first: VideoFrame) -> dict[str, object]:
    """What the first picture shows."""
    turned = turn_of_display(first)
    return {
        "width": first.width,
        "height": first.height,
        "rotation": turned.nearest,
        "rotation_flag": turned.degrees,
        "mirrored": turned.mirrored,
        "pixel_format": first.format.name,
        "depth": first.format.components[0].bits,
        "chroma": _chroma_name(first),
        "alpha": is_transparent(first),
        "mastering": mastering_of(first),
        "content_light": content_light_of(first),
    }


def _range(stated: dict[str, object], first: VideoFrame) -> dict[str, object]:
    """Whether samples are of the full range: as the file flags it, else as is usual for such samples."""
    if first.format.name.startswith("yuvj"):
        return {"full_range": True}
    if stated["full_range"] is not None:
        return {}
    grey = is_grey(first) and stated["codec"] not in LIMITED_UNLESS_FLAGGED
    return {"full_range": is_rgb(first) or grey}


def _timed(container: InputContainer, found: Scan, first: VideoFrame) -> dict[str, object]:
    """What going through the file showed."""
    rates = [Fraction(rate) for rate in (found.stream.guessed_rate, found.stream.average_rate) if rate]
    timing = _timing(container, found, rates)
    frames, duration = _length(container, found, timing)
    start = found.times[0] * found.tick
    turned, pictures = turn_of_display(first), len(moving_pictures(container))
    return {
        "timecode": _start_code(container, first, timing.rate),
        "subtitles": subtitle_facts(container),
        "rate": timing.rate,
        "rate_stated": bool(rates),
        "rate_varies": timing.varies,
        "shortest_frame": timing.shortest,
        "longest_frame": timing.longest,
        "duration": duration,
        "frames": frames,
        "sounds": tuple(_sound(span, start) for span in found.sounds if span.start is not None),
        "counted": _counted(found),
        "shown_by": found.shown_by,
        "seekable": not found.jumps,
        "findings": noticed(container, found, timing, turned, duration, pictures),
    }


def _counted(found: Scan) -> str:
    if not found.complete:
        return "estimated"
    return "decoded" if found.decoded else "packets"


def _timing(container: InputContainer, found: Scan, stated: list[Fraction]) -> Timing:
    """The rate; damage does not make it vary."""
    name = demuxer_of(container)
    damaged = bool(found.errors or found.concealed or found.failed)
    if name in COUNTED and stated:
        found.times = evened(found.times, found.tick, stated[0])
    fill, binding = name in CONSTANT or damaged, name in BINDING and bool(stated)
    return timing_of(found.times, found.tick, stated, fill=fill, binding=binding)


def _length(container: InputContainer, found: Scan, timing: Timing) -> tuple[int, Fraction]:
    """Count the pictures, including gaps in a constant rate, and measure the duration in seconds."""
    if not found.complete:
        return _estimated(container, found, timing)
    frames = len(found.times) + sum(count for _, count in timing.holes)
    if not timing.varies:
        return frames, frames / timing.rate
    shown = (found.times[-1] - found.times[0]) * found.tick
    lasts = found.last_length * found.tick or 1 / timing.rate
    read = len(found.times) + found.leading + len(found.errors)
    if demuxer_of(container) in EDITED and found.stream.duration and read >= found.stream.frames:  # complete
        # Picture durations are stored in decoding order: the last one stored is not that of the last picture shown.
        stated = found.stream.duration * found.tick - shown
        lasts = stated if 0 < stated < MAX_LAST_PICTURE_S else lasts
    return frames, shown + lasts


def _estimated(container: InputContainer, found: Scan, timing: Timing) -> tuple[int, Fraction]:
    """Estimate both for a file that was not read to its end: from its header, otherwise from the part read."""
    read = (found.times[-1] - found.times[0]) * found.tick
    stated = Fraction(container.duration or 0, 1_000_000)
    if stated <= read:
        stated = read * container.size / max(1, found.read)
    frames = max(len(found.times), round(stated * timing.rate))
    return frames, frames / timing.rate


def _chroma_name(frame: VideoFrame) -> str:
    """The trade's name of the chroma format, from the sizes of the planes of a frame."""
    chroma = [component for component in frame.format.components if component.is_chroma]
    if not chroma:
        return "4:4:4" if frame.format.is_rgb else "4:0:0"
    across, down = round(frame.width / chroma[0].width), round(frame.height / chroma[0].height)
    return {(1, 1): "4:4:4", (2, 1): "4:2:2", (2, 2): "4:2:0", (4, 1): "4:1:1"}.get((across, down), "other")


def _sound(span: SoundSpan, picture_start: Fraction) -> SoundInfo:
    start, end = span.start or Fraction(0), span.end
    return SoundInfo(
        codec=span.stream.codec_context.name,
        rate=span.stream.rate,
        channels=span.stream.codec_context.channels,
        start=start - picture_start,
        duration=None if end is None else end - start,
        stream=span.stream.index,
        language=_language(span.stream),
        title=_title(span.stream),
    )


def _title(stream: AudioStream) -> str:
    """Return the title of a track. In MP4 and MOV it is the handler name, which writers often fill with their own."""
    stated = stream.metadata.get("title") or stream.metadata.get("handler_name", "")
    return "" if HANDLER.search(stated) else stated[:LONGEST_TITLE].strip()


def _language(stream: AudioStream) -> str:
    stated = stream.metadata.get("language", "")[:3]
    return "" if stated == UNDETERMINED else stated
