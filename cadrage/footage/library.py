"""What a plan uses besides its own clip: other clips, pictures, files of captions; each by a name."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from fractions import Fraction
from pathlib import Path

from cadrage.errors import BadRequest
from cadrage.footage.identity import ClipIdentity
from cadrage.footage.interpretation import Interpretation
from cadrage.footage.media_info import MediaInfo
from cadrage.footage.pictures import DecodedFrame
from cadrage.footage.probe import probe
from cadrage.footage.store import FrameStore

PlateFinder = Callable[[str], Path | None]
"""Where the plate lies that a request asks for, given as JSON; None where it is not there."""
RENDER_BYTES = 96 * 2**20  # pictures of other clips held during a render: a few, whatever its length


@dataclass(frozen=True, slots=True)
class Material:
    """One thing to use.

    Attributes:
        path: the file.
        info: what it is, where that is known.
        interpretation: what its samples are taken to mean.
        identity: which file it was, where that is known.
    """

    path: Path
    info: MediaInfo | None = None
    interpretation: Interpretation = field(default_factory=Interpretation)
    identity: ClipIdentity | None = None

    @property
    def identity_now(self) -> ClipIdentity:
        """Which file it is.

        Raises:
            MissingSource: it is not there.
        """
        return ClipIdentity.of(self.path, self.identity)


class Library:
    """Finds what plans name, and reads pictures of it; safe to share between threads.

    Args:
        find: what a name stands for; "" is the clip itself. Raises BadRequest for a name that it does not know.
        store: where decoded pictures are kept.
        plates: finds what lies beyond the picture of the clip itself.
    """

    def __init__(
        self,
        find: Callable[[str], Material],
        store: FrameStore | None = None,
        plates: PlateFinder | None = None,
    ) -> None:
        self._find = find
        self.plates: PlateFinder = plates or (lambda _: None)
        self._store = store or FrameStore(RENDER_BYTES)
        self._probed: dict[str, Material] = {}

    def material(self, name: str) -> Material:
        """What a name stands for.

        Raises:
            BadRequest: nothing that can be used.
        """
        return self._find(name)

    def state_of(self, name: str) -> str:
        """What a name stands for now, in text that changes when that does.

        Raises:
            BadRequest: nothing that can be used. MissingSource: its file is not there.
        """
        found = self._find(name)
        return f"{found.identity_now.key} {found.interpretation.model_dump_json()}"

    def clip(self, name: str) -> tuple[Material, MediaInfo]:
        """What a name stands for, and what it is; it is probed where nobody has said.

        Raises:
            BadRequest: nothing that is known. MissingSource, UnreadableFile: it has no pictures that can be read.
        """
        found = self._find(name)
        if found.info is None:
            found = self._probed.setdefault(name, replace(found, info=probe(found.path)))
        assert found.info is not None
        return found, found.info

    def frame(self, name: str, time: Fraction, reader_id: int = 0) -> DecodedFrame:
        """The picture of a clip at a time. Each reader is its own, so that two places are read in turn quickly."""
        found, info = self.clip(name)
        return self._store.frame(found.path, info, found.interpretation, time, reader_id, found.identity)


@dataclass(frozen=True, slots=True)
class Contents:
    """What a plan uses of a library; unlike that, it can be sent to another process.

    Attributes:
        materials: by the names that the plan has for them.
        plates: folders of plates that are there, by what asks for them.
    """

    materials: Mapping[str, Material]
    plates: Mapping[str, Path]

    def library(self, store: FrameStore | None = None) -> Library:
        """A library that has just this."""
        return Library(self.materials.__getitem__, store, self.plates.get)


def library_of_files(own: Material, store: FrameStore | None = None, plates: PlateFinder | None = None) -> Library:
    """A library whose names are paths."""
    return Library(lambda name: Material(Path(name)) if name else own, store, plates)


def _nothing(name: str) -> Material:
    raise BadRequest(
        f"The surround or the titles use {name or 'the clip itself'}, which is not to be had here.",
        remedy="Choose another, or add it first.",
    )


EMPTY = Library(_nothing)
"""A library that has nothing."""
