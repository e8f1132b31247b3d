"""Compose clips and stills that take much memory or time in a separate process.

A still of 80 million pixels takes a gigabyte while it is composed, and a moment of a clip without keyframes takes as
long as all of it before that moment. The process may have so much memory, and so many seconds for one picture.
"""

import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from copy import copy
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import cache
from math import prod
from pathlib import Path
from typing import ParamSpec, TypeVar

from cachetools import LRUCache, TTLCache, cached

from cadrage.child_process import ChildProcess, TakesTooLong
from cadrage.compose.extending import plates_there
from cadrage.compose.preview import WHOLE, Part, Previewer
from cadrage.compose.quiet import Sample
from cadrage.errors import Busy
from cadrage.footage import EMPTY, ClipIdentity, Contents, Interpretation, Library, MediaInfo
from cadrage.footage.interruption import interrupted_by
from cadrage.footage.probe import probe, stated_size
from cadrage.footage.still_files import is_still, still_size
from cadrage.footage.stills import stills_of
from cadrage.pixels.planes import Layout, Planes
from cadrage.plan import Plan

HEAVY = 20_000_000
"""Pixels of a picture, above which it is: seven bytes for each are held while a still is decoded."""
SHORT_SECONDS = 4.0
"""Limit for one picture in the calling process; a clip that exceeds it is composed in the other from then on."""
FORGET_SECONDS = 600.0
"""For which a clip that took too long even there is not tried again."""
CLIPS_KNOWN = 1000
SAMPLE_BYTES = 256 << 20
"""Of samples that are kept: some of usual clips, or that of one large still."""

Measured = TypeVar("Measured")
Given = ParamSpec("Given")


@dataclass(frozen=True, slots=True)
class Look:
    """All that composing a plan needs, as it can be sent to another process.

    Attributes:
        plan: the plan to compose.
        path: of the clip.
        info: the clip's properties.
        identity: identifies the file.
        contents: other files that the plan uses.
    """

    plan: Plan
    path: Path
    info: MediaInfo
    identity: ClipIdentity
    contents: Contents


class TooSlow(Busy):
    """It takes too long in this process; asked again, it is done in the other."""


def is_heavy_picture(info: MediaInfo | None) -> bool:
    """Whether each picture of something is heavy by its size."""
    return info is not None and info.width * info.height > HEAVY


class CarefulPreviewer(Previewer):
    """A `Previewer` that composes heavy clips in a separate process.

    Args:
        child: the separate process.
    """

    def __init__(self, child: ChildProcess) -> None:
        super().__init__()
        self._child = child
        self._slow: LRUCache[str, bool] = LRUCache(CLIPS_KNOWN)
        self._timed_out: TTLCache[str, TakesTooLong] = TTLCache(CLIPS_KNOWN, FORGET_SECONDS)

    def is_heavy(self, info: MediaInfo, own: ClipIdentity, plan: Plan | None = None, library: Library = EMPTY) -> bool:
        """Whether a clip, or another file that its plan uses, is heavy.

        Raises:
            BadRequest: the plan names a file that does not exist.
        """
        if is_heavy_picture(info) or own.key in self._slow:
            return True
        used = [library.material(name) for name in plan.asset_refs if name] if plan else []
        return any(is_heavy_picture(one.info) or (one.identity and one.identity.key in self._slow) for one in used)

    def _in_child(
        self, own: ClipIdentity, work: Callable[Given, Measured], *given: Given.args, **named: Given.kwargs
    ) -> Measured:
        """Run a function in the separate process.

        Raises:
            TakesTooLong: it does, or did within `FORGET_SECONDS`. Others: see `ChildProcess.call`.
        """
        if own.key in self._timed_out:
            raise copy(self._timed_out[own.key])
        try:
            return self._child.call(work, *given, **named)
        except TakesTooLong as error:
            self._timed_out[own.key] = error
            raise

    @contextmanager
    def quickly(self, own: ClipIdentity) -> Iterator[None]:
        """Look at a clip in this process, for a short while.

        Raises:
            TooSlow: it takes longer. From then on the clip counts as heavy.
        """
        until = time.monotonic() + SHORT_SECONDS

        def check() -> None:
            if time.monotonic() > until:
                self._slow[own.key] = True
                raise TooSlow("Reaching this moment of the clip takes long.", remedy="Try again.")

        with interrupted_by(check):
            yield

    def planes(
        self,
        plan: Plan,
        path: Path,
        info: MediaInfo,
        time: Fraction,
        canvas: Layout,
        *,
        library: Library = EMPTY,
        identity: ClipIdentity | None = None,
    ) -> Planes:
        """See `Previewer`.

        Raises:
            Busy, RasterOutOfRange, TakesTooLong: a heavy clip waits too long, or takes too much memory or time.
                TooSlow: see `quickly`.
        """
        own = identity or ClipIdentity.of(path)
        if self.is_heavy(info, own, plan, library):
            return self._in_child(own, _drawn, look_at(plan, path, info, library, own), time, canvas)
        with self.quickly(own):
            return super().planes(plan, path, info, time, canvas, library=library, identity=own)

    def measured(self, work: Callable[[Plan, Sample], Measured], look: Look) -> Measured:
        """Run a function of the core on a sample of a heavy clip; see `planes`."""
        return self._in_child(look.identity, _measured, work, look)

    def probed(self, path: Path) -> MediaInfo:
        """Probe a file; heavy ones in the separate process. See `probe`."""
        first = stills_of(path)[0] if path.is_dir() else path
        if first.is_file() and prod(still_size(first) if is_still(first) else stated_size(first)) > HEAVY:
            return self._child.call(probe, path)
        return probe(path)

    def strip(
        self, path: Path, info: MediaInfo, reading: Interpretation, count: int, height: int, part: Part = WHOLE
    ) -> bytes:
        """See `Previewer` and `planes`."""
        own = ClipIdentity.of(path)
        if self.is_heavy(info, own):
            return self._in_child(own, _strip, path, info, reading, count, height, part)
        with self.quickly(own):
            return super().strip(path, info, reading, count, height, part)


def look_at(plan: Plan, path: Path, info: MediaInfo, library: Library, identity: ClipIdentity | None = None) -> Look:
    """Collect everything that composing a plan needs.

    Raises:
        BadRequest, MissingSource: a file that it uses does not exist.
    """
    materials = {name: library.material(name) for name in plan.asset_refs}
    plates = plates_there(plan, info, library)
    return Look(plan, path, info, identity or ClipIdentity.of(path), Contents(materials, plates))


@cache
def _own() -> Previewer:
    """The other process's."""
    return Previewer()


def _drawn(look: Look, time: Fraction, canvas: Layout) -> Planes:
    library = look.contents.library(_own().store)
    return _own().planes(look.plan, look.path, look.info, time, canvas, library=library, identity=look.identity)


def _strip(path: Path, info: MediaInfo, reading: Interpretation, count: int, height: int, part: Part) -> bytes:
    return _own().strip(path, info, reading, count, height, part)


def _measured(work: Callable[[Plan, Sample], Measured], look: Look) -> Measured:
    sample = kept_sample(look.path, look.identity, look.info, look.plan.interpretation)
    return work(look.plan, replace(sample, library=look.contents.library(_own().store)))


@cached(LRUCache(SAMPLE_BYTES, lambda sample: sample.nbytes), key=lambda *given: str(given), lock=threading.Lock())
def kept_sample(path: Path, identity: ClipIdentity, info: MediaInfo, interpretation: Interpretation) -> Sample:
    """A few pictures of a clip, to measure by; kept for the clips looked at last."""
    del identity  # another file has other pictures
    return Sample.of(interpretation, info, path)
