"""Decoded pictures, kept for a while."""

import threading
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass, field
from fractions import Fraction
from pathlib import Path

from cachetools import LRUCache

from cadrage.footage.identity import ClipIdentity
from cadrage.footage.interpretation import Interpretation
from cadrage.footage.media_info import MediaInfo
from cadrage.footage.opening import open_footage
from cadrage.footage.pictures import DecodedFrame, PictureReader

CACHE_BYTES = 96 * 2**20
OPEN_CLIPS = 6

Key = tuple[str, str, tuple[object, ...], int]


@dataclass(slots=True)
class _OpenClip:
    """A reader, used by one thread at a time.

    Attributes:
        reader: the reader.
        users: threads that use it or wait for it; counted under the store's lock. It is closed only at none.
        wanted: whether it is still among the store's clips; one that is not is closed by its last user.
        lock: held while reading.
    """

    reader: PictureReader
    users: int = 0
    wanted: bool = True
    lock: threading.Lock = field(default_factory=threading.Lock)


class _OpenClips(LRUCache[Key, _OpenClip]):
    """Readers of the clips used last; one that has to go is closed as soon as nobody uses it."""

    def popitem(self) -> tuple[Key, _OpenClip]:
        """Let go of the one that was used the longest ago."""
        key, clip = super().popitem()
        let_go(clip)
        return key, clip


def let_go(clip: _OpenClip) -> None:
    """Close a reader now, or by its last user."""
    clip.wanted = False
    if not clip.users:
        clip.reader.close()


class FrameStore:
    """Decoded pictures of recently used clips, up to a number of bytes; safe to share between threads."""

    def __init__(self, limit: int = CACHE_BYTES) -> None:
        self._frames: LRUCache[tuple[Key, Fraction, Fraction], DecodedFrame] = LRUCache(
            limit, lambda one: one.planes.nbytes
        )
        self._clips = _OpenClips(OPEN_CLIPS)
        self._lock = threading.Lock()

    @property
    def held(self) -> int:
        """Bytes of all pictures that are kept."""
        return int(self._frames.currsize)

    def frame(
        self,
        path: Path,
        info: MediaInfo,
        stated: Interpretation,
        time: Fraction,
        reader_id: int = 0,
        identity: ClipIdentity | None = None,
    ) -> DecodedFrame:
        """The picture of a clip that is on screen at a time. Each `reader_id` has a reader of its own; which file it is
        is asked of the file, unless `identity` is given.
        """
        key = (str(path), (identity or ClipIdentity.of(path)).key, stated.decoding, reader_id)
        if (held := self._held(key, time)) is not None:
            return held
        with self._open(key, path, info, stated) as reader:
            frame = reader.frame_at(time)
        self._hold(key, frame)
        return frame

    def _held(self, key: Key, time: Fraction) -> DecodedFrame | None:
        with self._lock:
            name = next((one for one in self._frames if one[0] == key and one[1] <= time < one[2]), None)
            return None if name is None else self._frames[name]

    def _hold(self, key: Key, frame: DecodedFrame) -> None:
        with self._lock, suppress(ValueError):  # one that is larger than all that may be held
            self._frames[key, frame.time, frame.end] = frame

    @contextmanager
    def _open(self, key: Key, path: Path, info: MediaInfo, stated: Interpretation) -> Iterator[PictureReader]:
        with self._lock:
            clip = self._clips.get(key) or _OpenClip(open_footage(path, info, stated))
            clip.users += 1
            self._clips[key] = clip
        done = False
        try:
            with clip.lock:
                yield clip.reader
            done = True
        finally:
            with self._lock:
                if not done and self._clips.get(key) is clip:  # who was interrupted stands nowhere
                    let_go(self._clips.pop(key))
                clip.users -= 1
                if not clip.users and not clip.wanted:
                    clip.reader.close()

    @contextmanager
    def lent(
        self, path: Path, info: MediaInfo, stated: Interpretation, identity: ClipIdentity | None = None
    ) -> Iterator[PictureReader]:
        """A reader of a clip for somebody's own use: the one that stands where it was looked at last, if it is free."""
        key = (str(path), (identity or ClipIdentity.of(path)).key, stated.decoding, 0)
        with self._lock:
            clip = self._clips.get(key)
            clip = self._clips.pop(key) if clip and not clip.users else _OpenClip(open_footage(path, info, stated))
        kept = False
        try:
            yield clip.reader
            kept = True
        except GeneratorExit:  # who borrowed it was told to stop
            kept = True
            raise
        finally:
            with self._lock:
                if kept and key not in self._clips:
                    self._clips[key] = clip
                else:
                    clip.reader.close()

    def forget(self, path: Path) -> None:
        """Let go of a clip, so that its file can be taken away."""
        with self._lock:
            for key in [key for key in self._clips if key[0] == str(path)]:
                let_go(self._clips.pop(key))
            for name in [name for name in self._frames if name[0][0] == str(path)]:
                del self._frames[name]
