"""The finished file: packets of picture and sound put together, under its name only once it is complete."""

import os
from collections.abc import Callable, Generator, Iterable, Iterator
from contextlib import closing, contextmanager
from pathlib import Path

import av
from av.container import OutputContainer
from av.video.stream import VideoStream

from cadrage import files
from cadrage.errors import CadrageError, CannotWrite
from cadrage.footage import MediaInfo
from cadrage.marking import MARK
from cadrage.render.drawing import Drawing, Encoded
from cadrage.render.encoder import Share, tick_of
from cadrage.render.progress import Meter
from cadrage.render.sound import SoundCarrier
from cadrage.render.subtitles import SubtitleTracks

MARKED_AS = ("comment", "product_name")
"""Where containers have a place for our mark; the second is MXF's."""
Pictures = Callable[[VideoStream], Generator[Encoded, None, None]]
"""Gives every coded picture in the order written, once there is a stream for them."""


@contextmanager
def translate_errors(target: Path, source: Path) -> Iterator[None]:
    """Errors of what is written here, said as ours.

    Raises:
        CannotWrite: no room, or no permission.
    """
    try:
        yield
    except (av.FFmpegError, OSError) as error:
        raise CannotWrite(
            f"The result could not be written: {error.strerror or error}.",
            remedy="Make room or choose another place, then render again.",
            clip=target,
        ) from error
    except CadrageError as error:
        error.clip = error.clip or source.name
        raise


def write_file(
    target: Path,
    drawing: Drawing,
    pictures: Pictures,
    meter: Meter,
    share: Share | None = None,
    *,
    replace: bool = False,
) -> None:
    """Write a whole file of coded pictures, and the sound of the clip beside them.

    Raises:
        CannotWrite, Cancelled: see each.
    """
    request, folder = drawing.request, drawing.encoder_config.kind.folder
    whole = files.written(target, sources=request.sources, folder=folder, replace=replace)
    with translate_errors(target, request.source), whole as part:
        if folder:
            _write_stills(part, target.stem if target.suffix == ".png" else target.name, drawing, pictures, meter)
        else:
            _write_container(part, drawing, pictures, meter, share)


def _write_container(part: Path, drawing: Drawing, pictures: Pictures, meter: Meter, share: Share | None) -> None:
    muxer = drawing.encoder_config.kind.muxer
    options = {"movflags": "+faststart", "movie_timescale": "48000"} if muxer in ("mp4", "mov") else {}
    with av.open(f"file:{part}", "w", format=muxer, options=options) as container:
        container.metadata.update(dict.fromkeys(MARKED_AS, MARK))
        stream = drawing.track(container, share)
        _code(container, stream, drawing)
        sounding = SoundCarrier(drawing.request, container, drawing.reader.picture_start)
        subtitles = SubtitleTracks(drawing.request, container, drawing.reader.picture_start)
        # Closed before anything else is, since threads draw for it.
        with sounding as sound, closing(pictures(stream)) as made:
            subtitles.write()
            for one in _ending_in_time(made, drawing.timing.info):
                container.mux(one.packets)
                sound.carry_to(one.time)
                if one.time is not None:
                    meter.count()
            sound.carry_to(None)


def _ending_in_time(made: Iterable[Encoded], wanted: MediaInfo) -> Iterator[Encoded]:
    """Coded pictures, the last of which says how long it stays.

    Where pictures last unequally long, writers of files would give the last one the length of the one before it.
    """
    if not wanted.rate_varies:
        yield from made
        return
    waiting: list[Encoded] = []
    first: int | None = None
    for one in made:
        if one.packets:
            first = one.packets[0].dts if first is None else first
            yield from waiting
            waiting = []
        waiting.append(one)
    packets = [packet for one in waiting for packet in one.packets]
    if packets and packets[-1].dts is not None and first is not None:
        # Lengths are told in the order of decoding, which ends as long after the last as it began before the first.
        packets[-1].duration = max(1, round(wanted.duration / tick_of(wanted)) - (packets[-1].dts - first))
    yield from waiting


def _code(container: OutputContainer, stream: VideoStream, drawing: Drawing) -> None:
    """Say the time code of the first picture where the container looks for it."""
    code = drawing.request.timecode
    if code is not None:
        (stream if drawing.encoder_config.kind.muxer in ("mp4", "mov") else container).metadata["timecode"] = str(code)


def _write_stills(folder: Path, name: str, drawing: Drawing, pictures: Pictures, meter: Meter) -> None:
    written = 0
    with av.open(os.devnull, "w", format="null") as container, closing(pictures(drawing.track(container))) as made:
        for one in made:
            for packet in one.packets:
                written += 1
                files.add(folder, f"{name}.{written:06}.png", bytes(packet))
            if one.time is not None:
                meter.count()
