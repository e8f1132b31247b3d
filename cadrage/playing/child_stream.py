"""Play heavy clips in a separate process, whose memory is bounded and which ends with the stream."""

import multiprocessing
from collections.abc import Callable, Generator, Sequence
from contextlib import suppress
from dataclasses import fields
from multiprocessing.connection import Connection
from pathlib import Path
from typing import Any

from cadrage import child_process
from cadrage.compose.heavy import look_at
from cadrage.errors import RasterOutOfRange
from cadrage.footage import Contents, FrameStore
from cadrage.playing.request import PlayRequest
from cadrage.playing.stream import PlayStream

POLL_SECONDS = 0.2


def parts_in_child(
    request: PlayRequest, wanted: Callable[[], bool], folders: Sequence[Path] | None = None
) -> Generator[bytes, None, None]:
    """The parts of a stream, made in another process; see `PlayStream.parts`.

    Args:
        request: to play.
        wanted: called a few times a second; the process ends once it returns False, and when the generator is closed.
        folders: in which the process may read files; None for all.

    Raises:
        MissingSource, UnreadableFile: the clip cannot be read. RasterOutOfRange: it takes more memory than the process
            may have.
    """
    context = multiprocessing.get_context("spawn")
    receiver, sender = context.Pipe(duplex=False)
    asked = {one.name: getattr(request, one.name) for one in fields(request) if one.name != "library"}
    process = context.Process(target=_play, args=(sender, asked, _contents(request), folders), daemon=True)
    process.start()
    sender.close()  # the process has its own
    try:
        while wanted():
            if not receiver.poll(POLL_SECONDS):
                continue
            try:
                made = receiver.recv()
            except EOFError:
                process.join()
                if process.exitcode:
                    raise RasterOutOfRange(
                        "Playing this clip takes more memory than there is.", remedy="Scale it down to play it."
                    ) from None
                return
            if isinstance(made, BaseException):
                raise made
            yield made
    finally:
        process.kill()
        process.join()
        receiver.close()


def _contents(request: PlayRequest) -> Contents:
    """Files of all plans."""
    looks = [look_at(plan, request.source, request.info, request.library) for plan in request.plans]
    materials = {name: one for look in looks for name, one in look.contents.materials.items()}
    return Contents(materials, {name: one for look in looks for name, one in look.contents.plates.items()})


def _play(sender: Connection, asked: dict[str, Any], contents: Contents, folders: Sequence[Path] | None) -> None:
    child_process.begin(folders)
    store = FrameStore()
    with suppress(BrokenPipeError):  # the parent closed the stream
        try:
            stream = PlayStream(PlayRequest(**asked, library=contents.library(store)), store=store)
            for part in stream.parts():
                sender.send(part)
        except Exception as error:  # noqa: BLE001 - it is raised where the stream is read
            sender.send(error)
