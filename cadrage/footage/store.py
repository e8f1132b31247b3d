"""Decoded pictures, kept for a while."""

import threading
from collections import OrderedDict
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from fractions import Fraction
from pathlib import Path

from cadrage.footage.facts import Facts
from cadrage.footage.interpretation import Interpretation
from cadrage.footage.opening import open_footage
from cadrage.footage.pictures import DecodedFrame, PictureReader

CACHE_BYTES = 400 * 2**20
OPEN_CLIPS = 6

Key = tuple[str, int, tuple[object, ...], int]


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


class FrameStore:
    """Decoded pictures of recently used clips, up to a number of bytes; safe to share between threads."""

    def __init__(self, limit: int = CACHE_BYTES) -> None:
        self.limit = limit
        self.held = 0
        self._frames: OrderedDict[tuple[Key, Fraction], DecodedFrame] = OrderedDict()
        self._clips: OrderedDict[Key, _OpenClip] = OrderedDict()
        self._lock = threading.Lock()

    def frame(self, path: Path, facts: Facts, said: Interpretation, time: Fraction, voice: int = 0) -> DecodedFrame:
        """The picture of a clip that is on screen at a time. Each voice reads with a reader of its own."""
        key = (str(path), path.stat().st_mtime_ns if path.exists() else 0, said.decoding, voice)
        if (held := self._held(key, time)) is not None:
            return held
        with self._open(key, path, facts, said) as reader:
            frame = reader.frame_at(time)
        self._hold(key, frame)
        return frame

    def _held(self, key: Key, time: Fraction) -> DecodedFrame | None:
        with self._lock:
            for name, frame in reversed(self._frames.items()):
                if name[0] == key and frame.time <= time < frame.end:
                    self._frames.move_to_end(name)
                    return frame
        return None

    def _hold(self, key: Key, frame: DecodedFrame) -> None:
        with self._lock:
            name = (key, frame.time)
            if name not in self._frames:
                self._frames[name] = frame
                self.held += frame.planes.nbytes
            while self.held > self.limit and len(self._frames) > 1:
                _, dropped = self._frames.popitem(last=False)
                self.held -= dropped.planes.nbytes

    @contextmanager
    def _open(self, key: Key, path: Path, facts: Facts, said: Interpretation) -> Iterator[PictureReader]:
        with self._lock:
            clip = self._clips.pop(key, None) or _OpenClip(open_footage(path, facts, said))
            self._clips[key] = clip
            clip.users += 1
            for name in list(self._clips)[: max(0, len(self._clips) - OPEN_CLIPS)]:
                self._give_up(name)
        try:
            with clip.lock:
                yield clip.reader
        finally:
            with self._lock:
                clip.users -= 1
                if not clip.users and not clip.wanted:
                    clip.reader.close()

    def _give_up(self, key: Key) -> None:
        """Take a clip out of the store; it is closed now, or by its last user."""
        clip = self._clips.pop(key)
        clip.wanted = False
        if not clip.users:
            clip.reader.close()

    def forget(self, path: Path) -> None:
        """Let go of a clip, so that its file can be taken away."""
        with self._lock:
            for key in [key for key in self._clips if key[0] == str(path)]:
                self._give_up(key)
            for name in [name for name in self._frames if name[0][0] == str(path)]:
                self.held -= self._frames.pop(name).planes.nbytes
