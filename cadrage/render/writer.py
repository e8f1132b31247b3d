"""The finished file: packets of picture and sound put together, under its name only once it is complete."""

import os
import shutil
import uuid
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path

import av
from av.video.stream import VideoStream

from cadrage.errors import CadrageError, CannotWrite
from cadrage.render.drawing import Drawing, Encoded
from cadrage.render.encoder import Share
from cadrage.render.progress import Meter
from cadrage.render.sound import SoundCarrier

Pictures = Callable[[VideoStream], Iterator[Encoded]]
"""Gives every coded picture in the order written, once there is a stream for them."""


@contextmanager
def beside(target: Path) -> Iterator[Path]:
    """A name in the target's folder that becomes the target's once all went well, and goes away otherwise."""
    part = target.with_name(f".{target.name}.{os.getpid()}.{uuid.uuid4().hex[:8]}.part")
    try:
        yield part
        if target.is_dir():
            shutil.rmtree(target)
        part.replace(target)
    finally:
        remove(part)


def remove(path: Path) -> None:
    """Take a file or a folder away; it need not be there."""
    if path.is_dir():
        shutil.rmtree(path, ignore_errors=True)
    else:
        path.unlink(missing_ok=True)


@contextmanager
def told_of(target: Path, source: Path) -> Iterator[None]:
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


def write_file(target: Path, drawing: Drawing, pictures: Pictures, meter: Meter, share: Share | None = None) -> None:
    """Write a whole file of coded pictures, and the sound of the clip beside them.

    Raises:
        CannotWrite, Cancelled: see each.
    """
    with told_of(target, drawing.order.source), beside(target) as part:
        if drawing.writing.kind.folder:
            _write_stills(part, target.name, drawing, pictures, meter)
        else:
            _write_container(part, drawing, pictures, meter, share)


def _write_container(part: Path, drawing: Drawing, pictures: Pictures, meter: Meter, share: Share | None) -> None:
    muxer = drawing.writing.kind.muxer
    options = {"movflags": "+faststart", "movie_timescale": "48000"} if muxer in ("mp4", "mov") else {}
    with av.open(str(part), "w", format=muxer, options=options) as container:
        stream = drawing.track(container, share)
        with SoundCarrier(drawing.order, container, drawing.reader.picture_start) as sound:
            for one in pictures(stream):
                container.mux(one.packets)
                sound.carry_to(one.time)
                if one.time is not None:
                    meter.count()
            sound.carry_to(None)


def _write_stills(folder: Path, name: str, drawing: Drawing, pictures: Pictures, meter: Meter) -> None:
    folder.mkdir()
    written = 0
    with av.open(os.devnull, "w", format="null") as container:
        stream = drawing.track(container)
        for one in pictures(stream):
            for packet in one.packets:
                written += 1
                (folder / f"{name}.{written:06}.png").write_bytes(bytes(packet))
            if one.time is not None:
                meter.count()
