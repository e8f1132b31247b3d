"""Stills of many million pixels, looked at in a process of their own: one takes a gigabyte while it is composed."""

import threading
from collections.abc import Callable
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import cache
from math import prod
from pathlib import Path
from typing import TypeVar

import numpy as np
from cachetools import LRUCache, cached
from numpy.typing import NDArray

from cadrage.child_process import ChildProcess
from cadrage.compose.extending import plates_there
from cadrage.compose.preview import Previewer
from cadrage.compose.quiet import Sample
from cadrage.footage import EMPTY, ClipIdentity, Contents, Interpretation, Library, MediaInfo
from cadrage.footage.probe import probe
from cadrage.footage.still_files import is_still, still_size
from cadrage.footage.stills import stills_of
from cadrage.plan import Plan

HEAVY = 20_000_000
"""Pixels of a still, above which it is: seven bytes for each are held while it is decoded."""
SAMPLE_BYTES = 256 << 20
"""Of samples that are kept: some of usual clips, or that of one large still."""

Measured = TypeVar("Measured")


@dataclass(frozen=True, slots=True)
class Look:
    """All that composing a plan needs, as it can be sent to another process.

    Attributes:
        plan: what is composed.
        path: of the clip.
        info: what the clip is.
        identity: which file it is.
        contents: what the plan uses besides.
    """

    plan: Plan
    path: Path
    info: MediaInfo
    identity: ClipIdentity
    contents: Contents


def is_heavy_still(info: MediaInfo | None) -> bool:
    """Whether something is a still that is heavy, or a sequence of such."""
    return info is not None and info.kind in ("still", "sequence") and info.width * info.height > HEAVY


def is_heavy(plan: Plan, info: MediaInfo, library: Library = EMPTY) -> bool:
    """Whether a plan shows a still that is heavy.

    Raises:
        BadRequest: it names something that is not to be had.
    """
    used = (library.material(name).info for name in plan.asset_refs if name)
    return is_heavy_still(info) or any(map(is_heavy_still, used))


class CarefulPreviewer(Previewer):
    """A `Previewer` that composes what is heavy in another process.

    Args:
        child: that process.
    """

    def __init__(self, child: ChildProcess) -> None:
        super().__init__()
        self._child = child

    def rgb(
        self,
        plan: Plan,
        path: Path,
        info: MediaInfo,
        time: Fraction,
        width: int,
        *,
        library: Library = EMPTY,
        identity: ClipIdentity | None = None,
    ) -> NDArray[np.uint8]:
        """See `Previewer`.

        Raises:
            Busy, RasterOutOfRange: what is heavy has to wait too long, or takes too much.
        """
        if not is_heavy(plan, info, library):
            return super().rgb(plan, path, info, time, width, library=library, identity=identity)
        return self._child.call(_drawn, look_at(plan, path, info, library, identity), time, width)

    def measured(self, work: Callable[[Plan, Sample], Measured], look: Look) -> Measured:
        """What a function of the core measures on a sample of a heavy clip; see `rgb`."""
        return self._child.call(_measured, work, look)

    def probed(self, path: Path) -> MediaInfo:
        """What a file is; see `probe`. A heavy still is decoded elsewhere."""
        first = stills_of(path)[0] if path.is_dir() else path
        if first.is_file() and is_still(first) and prod(still_size(first)) > HEAVY:
            return self._child.call(probe, path)
        return probe(path)

    def strip(self, path: Path, info: MediaInfo, reading: Interpretation, count: int, height: int) -> bytes:
        """See `Previewer` and `rgb`."""
        if not is_heavy_still(info):
            return super().strip(path, info, reading, count, height)
        return self._child.call(_strip, path, info, reading, count, height)


def look_at(plan: Plan, path: Path, info: MediaInfo, library: Library, identity: ClipIdentity | None = None) -> Look:
    """What is needed to look at a plan.

    Raises:
        BadRequest, MissingSource: something that it uses is not to be had.
    """
    materials = {name: library.material(name) for name in plan.asset_refs}
    plates = plates_there(plan, info, library)
    return Look(plan, path, info, identity or ClipIdentity.of(path), Contents(materials, plates))


@cache
def _own() -> Previewer:
    """The other process's."""
    return Previewer()


def _drawn(look: Look, time: Fraction, width: int) -> NDArray[np.uint8]:
    library = look.contents.library(_own().store)
    return _own().rgb(look.plan, look.path, look.info, time, width, library=library, identity=look.identity)


def _strip(path: Path, info: MediaInfo, reading: Interpretation, count: int, height: int) -> bytes:
    return _own().strip(path, info, reading, count, height)


def _measured(work: Callable[[Plan, Sample], Measured], look: Look) -> Measured:
    sample = kept_sample(look.path, look.identity, look.info, look.plan.interpretation)
    return work(look.plan, replace(sample, library=look.contents.library(_own().store)))


@cached(LRUCache(SAMPLE_BYTES, lambda sample: sample.nbytes), key=lambda *given: str(given), lock=threading.Lock())
def kept_sample(path: Path, identity: ClipIdentity, info: MediaInfo, interpretation: Interpretation) -> Sample:
    """A few pictures of a clip, to measure by; kept for the clips looked at last."""
    del identity  # another file has other pictures
    return Sample.of(interpretation, info, path)
