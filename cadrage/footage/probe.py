"""Finding out what a file is."""

from fractions import Fraction
from pathlib import Path

from av.container import InputContainer
from av.video.frame import VideoFrame
from av.video.stream import VideoStream

from cadrage.errors import RasterOutOfRange, UnreadableFile
from cadrage.footage.container import COPY_AGAIN, demuxer_of, moving_pictures, opened, picture_stream
from cadrage.footage.facts import FIELD_ORDER_OF_CODE, Facts, SoundFacts
from cadrage.footage.noticed import noticed
from cadrage.footage.scan import COUNTED, WITHOUT_DECODING, Budget, Scan, SoundSpan, scan
from cadrage.footage.stills import is_still, probe_sequence, probe_still
from cadrage.footage.timing import BINDING, CONSTANT, Timing, evened, timing_of
from cadrage.footage.turning import turn_of_display
from cadrage.formats.frames import MAX_SIDE, MIN_SIDE

WHILE_WAITING = Budget()


def probe(path: Path | str, *, thorough: bool = False, counted: bool = False) -> Facts:
    """Find out what a file is.

    All of it is gone through and its pictures decoded as long as that takes no more than a second or two. Of longer
    files pictures are counted by their packets, and of very long ones their number is estimated, unless asked to be
    thorough, or asked that they be counted; `Facts.counted` says which it was. A folder is taken as a sequence of
    numbered stills.

    Raises:
        MissingSource, UnreadableFile, NoPicture, RasterOutOfRange: see each.
    """
    path = Path(path)
    if path.is_dir():
        return probe_sequence(path)
    if path.is_file() and is_still(path):
        return probe_still(path)
    budget = None if thorough else WITHOUT_DECODING if counted else WHILE_WAITING
    facts, shuffled = _probed(path, budget, shuffled=False)
    return _probed(path, budget, shuffled=True)[0] if shuffled else facts


def picture_times(path: Path, facts: Facts) -> list[Fraction]:
    """When each picture of a clip comes, in seconds from the first.

    Args:
        path: the file.
        facts: what it is.

    Raises:
        MissingSource, UnreadableFile: see `probe`.
    """
    with opened(path) as container:
        # Packets tell as well, unless some cannot be decoded.
        decoded = bool(facts.findings) or facts.shown_by == "decoding"
        found = scan(container, path, facts.shown_by, None if decoded else WITHOUT_DECODING)
        if demuxer_of(container) in COUNTED:
            found.times = evened(found.times, found.tick, facts.rate)
        return [(time - found.times[0]) * found.tick for time in found.times]


def _probed(path: Path, budget: Budget | None, *, shuffled: bool) -> tuple[Facts, bool]:
    with opened(path) as container:
        stream = picture_stream(container, path)
        _check_raster(stream.codec_context.width, stream.codec_context.height, path)
        said = _stated(stream)
        found = scan(container, path, "decoding" if shuffled else "presentation", budget)
        if found.first is None:
            raise UnreadableFile("It holds no picture that can be decoded.", remedy=COPY_AGAIN, clip=path)
        _check_raster(found.first.width, found.first.height, path)
        return Facts.model_validate(said | _shown(found.first) | _timed(container, found, found.first)), found.shuffled


def _check_raster(width: int, height: int, path: Path) -> None:
    if not (MIN_SIDE <= width <= MAX_SIDE and MIN_SIDE <= height <= MAX_SIDE):
        raise RasterOutOfRange(
            f"The picture is {width}×{height}; sides from {MIN_SIDE} to {MAX_SIDE} pixels can be read.",
            remedy="Scale the clip to such a size first.",
            clip=path,
        )


def _stated(stream: VideoStream) -> dict[str, object]:
    """What headers say; asked before anything is decoded, since decoders put what single pictures say in its place."""
    context = stream.codec_context
    return {
        "container": stream.container.format.name,
        "codec": context.codec.canonical_name,  # of the codec, whichever decoder reads it
        "pixel_aspect": stream.sample_aspect_ratio or context.sample_aspect_ratio or None,
        "stream_aspect": context.sample_aspect_ratio or None,
        "field_order": FIELD_ORDER_OF_CODE.get(context.field_order, "unknown"),
        "matrix": int(context.colorspace or 2),
        "primaries": int(context.color_primaries or 2),
        "transfer": int(context.color_trc or 2),
        "full_range": int(context.color_range) == 2,
        "others": tuple(one.type for one in stream.container.streams if one.type not in ("video", "audio")),
    }


def _shown(first: VideoFrame) -> dict[str, object]:
    """What the first picture shows."""
    turned = turn_of_display(first)
    shown: dict[str, object] = {
        "width": first.width,
        "height": first.height,
        "rotation": turned.nearest,
        "rotation_flag": turned.degrees,
        "mirrored": turned.mirrored,
        "pixel_format": first.format.name,
        "depth": first.format.components[0].bits,
        "chroma": _chroma_name(first),
    }
    return shown | ({"full_range": True} if first.format.name.startswith("yuvj") else {})


def _timed(container: InputContainer, found: Scan, first: VideoFrame) -> dict[str, object]:
    """What going through the file showed."""
    rates = [Fraction(rate) for rate in (found.stream.guessed_rate, found.stream.average_rate) if rate]
    timing = _timing(container, found, rates)
    frames, duration = _length(container, found, timing)
    start = found.times[0] * found.tick
    turned, pictures = turn_of_display(first), len(moving_pictures(container))
    return {
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
    """Number of pictures, with those that are missing from a constant rate, and seconds in all."""
    if not found.complete:
        return _estimated(container, found, timing)
    frames = len(found.times) + sum(count for _, count in timing.holes)
    if not timing.varies:
        return frames, frames / timing.rate
    lasts = found.last_length * found.tick or 1 / timing.rate
    return frames, (found.times[-1] - found.times[0]) * found.tick + lasts


def _estimated(container: InputContainer, found: Scan, timing: Timing) -> tuple[int, Fraction]:
    """The same of a file that was not read to its end, by what its header says, else by what was read of it."""
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


def _sound(span: SoundSpan, picture_start: Fraction) -> SoundFacts:
    start, end = span.start or Fraction(0), span.end
    return SoundFacts(
        codec=span.stream.codec_context.name,
        rate=span.stream.rate,
        channels=span.stream.codec_context.channels,
        start=start - picture_start,
        duration=None if end is None else end - start,
        stream=span.stream.index,
    )
