"""Composed frames for the page."""

import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import TypeVar

from cachetools import LRUCache, cached
from django.conf import settings

from cadrage.child_process import ChildProcess
from cadrage.compose.heavy import CarefulPreviewer, TooSlow, kept_sample
from cadrage.compose.identity import result_key
from cadrage.compose.palette import suggested_colours
from cadrage.compose.preview import picture_alone
from cadrage.compose.quiet import Sample
from cadrage.footage import ClipIdentity, Interpretation, MediaInfo
from cadrage.footage.index import keep_indexes_in
from cadrage.footage.interruption import interrupted_by
from server.studio.actions.streams import ConcurrencyLimit
from server.studio.apps import readable
from server.studio.asking import check_client_connected, visitor
from server.studio.disk_cache import on_disk
from server.studio.models import Footage

Made = TypeVar("Made")


images = on_disk("images", settings.CACHE_BYTES)
keep_indexes_in(on_disk("indexes", settings.CACHE_BYTES // 8))
previewer = CarefulPreviewer(ChildProcess(readable))
"""Decoded pictures and compositors, shared by all requests of this process."""

AT_ONCE = threading.Semaphore(2)
HEAVY_AT_ONCE = threading.Semaphore(1)
WAITING = ConcurrencyLimit(12, "Many pictures are being made.", limit_each=6)
HEAVY_WAITING = ConcurrencyLimit(4, "Other large pictures are being made.", limit_each=2)
"""Requests that may wait for pictures, in all and of one visitor: each holds one of twelve threads that others need."""
POLL_SECONDS = 0.2
COLOURS_KEPT = 500


@contextmanager
def turn(*, heavy: bool) -> Iterator[None]:
    """Compose within the block, when it is its turn.

    Raises:
        Busy: too many wait already. Cancelled: the client is gone.
    """
    at_once, waiting = (HEAVY_AT_ONCE, HEAVY_WAITING) if heavy else (AT_ONCE, WAITING)
    with waiting.slot(visitor()), interrupted_by(check_client_connected):
        while not at_once.acquire(timeout=POLL_SECONDS):
            check_client_connected()
        try:
            yield
        finally:
            at_once.release()


def in_turn(work: Callable[[], Made], *, heavy: bool) -> Made:
    """Compose when it is its turn; what turns out to be heavy, when it is the turn of that.

    Raises:
        Busy, Cancelled: see `turn`.
    """
    try:
        with turn(heavy=heavy):
            return work()
    except TooSlow:
        with turn(heavy=True):
            return work()


def found(key: str) -> bytes | None:
    """An image from the disk cache; None where it is not there yet."""
    held = images.get(key)
    return held if isinstance(held, bytes) else None


def kept(key: str, make: Callable[[], bytes], *, heavy: bool = False) -> bytes:
    """An image from the disk cache, made where it is not there yet. The key must say all that it depends on.

    Raises:
        Busy, Cancelled: see `turn`.
    """
    if (held := found(key)) is not None:
        return held
    data = in_turn(make, heavy=heavy)
    images[key] = data
    return data


def alone_key(footage: Footage, interpretation: Interpretation, **at: object) -> str:
    """The key of what shows a clip's picture and nothing else."""
    return result_key(picture_alone(footage.info, interpretation), {"": footage.identity_now.key}, **at)


def sample_of(footage: Footage, interpretation: Interpretation) -> Sample:
    """A few pictures of a clip that is not heavy, to measure by; see `kept_sample`."""
    own = footage.identity_now
    with previewer.quickly(own):
        return kept_sample(footage.path, own, footage.info, interpretation)


def own_colours(footage: Footage, interpretation: Interpretation) -> tuple[str, ...]:
    """Colours that a clip itself suggests; kept for the clips looked at last.

    Raises:
        Busy, Cancelled: see `turn`.
    """
    own = footage.identity_now
    heavy = previewer.is_heavy(footage.info, own)
    return in_turn(lambda: _colours(footage.path, own, footage.info, interpretation), heavy=heavy)


@cached(LRUCache(COLOURS_KEPT), key=lambda *given: str(given), lock=threading.Lock())
def _colours(path: Path, identity: ClipIdentity, info: MediaInfo, interpretation: Interpretation) -> tuple[str, ...]:
    del identity  # another file has other colours
    return suggested_colours(previewer, path, info, interpretation)
