"""Looking: composed frames for the page, the newest request first."""

import hashlib
import threading
from collections.abc import Callable
from functools import lru_cache
from pathlib import Path

from django.conf import settings

from cadrage.compose import Previewer
from cadrage.compose.palette import suggested_colours
from cadrage.compose.quiet import Sample
from cadrage.footage import Facts, Interpretation
from cadrage.footage.index import keep_indexes_in
from server.studio.models import Footage

keep_indexes_in(Path(settings.CACHE_DIR))
looker = Previewer()
"""Decoded pictures and compositors, shared by all requests of this process."""

AT_ONCE = threading.Semaphore(2)
SAMPLES_KEPT = 4
COLOURS_KEPT = 500


class Latest:
    """Lets the newest request of each asker through and turns away those it has overtaken."""

    def __init__(self) -> None:
        self._newest: dict[str, int] = {}
        self._lock = threading.Lock()

    def run(self, asker: str, ticket: int, work: Callable[[], bytes]) -> bytes | None:
        """Do the work, unless a request of this asker with a higher ticket came before its turn did."""
        with self._lock:
            self._newest[asker] = max(ticket, self._newest.pop(asker, 0))
            while len(self._newest) > 1000:
                self._newest.pop(next(iter(self._newest)))
        with AT_ONCE:
            with self._lock:
                overtaken = self._newest.get(asker, 0) > ticket
            return None if overtaken else work()


latest = Latest()


def _place(name: str) -> Path:
    return Path(settings.CACHE_DIR) / f"{hashlib.sha256(name.encode()).hexdigest()[:32]}.jpg"


def found(name: str) -> bytes | None:
    """An image from the disk cache; None where it is not there yet."""
    path = _place(name)
    return path.read_bytes() if path.exists() else None


def kept(name: str, make: Callable[[], bytes]) -> bytes:
    """An image from the disk cache, made where it is not there yet. The name must say all that it depends on."""
    if (held := found(name)) is not None:
        return held
    path = _place(name)
    with AT_ONCE:
        data = make()
    part = path.with_suffix(f".{threading.get_ident()}.part")
    part.write_bytes(data)
    part.replace(path)
    return data


def sample_of(footage: Footage, interpretation: Interpretation) -> Sample:
    """A few pictures of a clip, to measure by; kept for the clips looked at last."""
    path = footage.path
    changed = path.stat().st_mtime_ns if path.exists() else 0
    return _sample(path, changed, footage.facts, interpretation)


@lru_cache(SAMPLES_KEPT)
def _sample(path: Path, changed: int, facts: Facts, interpretation: Interpretation) -> Sample:
    del changed  # a file that has changed is another
    return Sample.of(interpretation, facts, path)


def own_colours(footage: Footage, interpretation: Interpretation) -> tuple[str, ...]:
    """Colours that a clip itself suggests; kept for the clips looked at last."""
    return _colours(footage.path, footage.digest, footage.facts, interpretation)


@lru_cache(COLOURS_KEPT)
def _colours(path: Path, digest: str, facts: Facts, interpretation: Interpretation) -> tuple[str, ...]:
    del digest  # another file has other colours
    return suggested_colours(looker, path, facts, interpretation)
