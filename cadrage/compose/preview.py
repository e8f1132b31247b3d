"""Composed frames for looking at, quickly: decoded pictures and prepared compositors are kept for a while."""

import threading
from collections import OrderedDict
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from fractions import Fraction
from pathlib import Path

import numpy as np

from cadrage.compose.compositor import Compositor
from cadrage.footage import ClipReader, DecodedFrame, Facts, Interpretation, read_as
from cadrage.formats import Frame
from cadrage.formats.frames import MAX_SIDE, MIN_SIDE
from cadrage.pixels.planes import Layout
from cadrage.pixels.rgb import encode_image, to_rgb
from cadrage.plan import Plan
from cadrage.surrounds import Plain

CACHE_BYTES = 400 * 2**20
OPEN_CLIPS = 6
COMPOSITORS = 12

Key = tuple[str, int]


@dataclass(slots=True)
class _OpenClip:
    """A reader, used by one thread at a time.

    Attributes:
        reader: the reader.
        users: threads that use it or wait for it; counted under the store's lock. It is closed only at none.
        wanted: whether it is still among the store's clips; one that is not is closed by its last user.
        lock: held while reading.
    """

    reader: ClipReader
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

    def frame(self, path: Path, facts: Facts, time: Fraction) -> DecodedFrame:
        """The picture of a clip that is on screen at a time."""
        key = (str(path), path.stat().st_mtime_ns if path.exists() else 0)
        if (held := self._held(key, time)) is not None:
            return held
        with self._open(key, path, facts) as reader:
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
    def _open(self, key: Key, path: Path, facts: Facts) -> Iterator[ClipReader]:
        with self._lock:
            clip = self._clips.pop(key, None) or _OpenClip(ClipReader(path, facts))
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


class Previewer:
    """Composes frames for looking at; safe to share between threads."""

    def __init__(self, store: FrameStore | None = None) -> None:
        self.store = store or FrameStore()
        self._compositors: OrderedDict[str, tuple[Compositor, threading.Lock]] = OrderedDict()
        self._lock = threading.Lock()

    def image(self, plan: Plan, path: Path, facts: Facts, time: Fraction, width: int, suffix: str = ".jpg") -> bytes:
        """The composed frame at a time, `width` square pixels wide, as an image file."""
        stored = self.store.frame(path, facts, time).planes
        size = preview_size(plan.frame, width)
        compositor, lock = self._compositor(plan, facts, size, stored.layout)
        with lock:
            planes = compositor.compose(stored)
        return encode_image(to_rgb(planes), suffix)

    def _compositor(
        self, plan: Plan, facts: Facts, size: tuple[int, int], layout: Layout
    ) -> tuple[Compositor, threading.Lock]:
        key = f"{plan.model_dump_json()} {facts.model_dump_json()} {size} {layout}"
        with self._lock:
            if (held := self._compositors.get(key)) is not None:
                self._compositors.move_to_end(key)
                return held
        made = (Compositor(plan, layout, facts, size), threading.Lock())
        with self._lock:
            self._compositors[key] = made
            while len(self._compositors) > COMPOSITORS:
                self._compositors.popitem(last=False)
        return made

    def picture(self, path: Path, facts: Facts, reading: Interpretation, time: Fraction, width: int) -> bytes:
        """The picture alone, upright and in its true shape, as a JPEG."""
        plan = Plan(interpretation=reading, frame=own_frame(facts, reading), surround=Plain())
        return self.image(plan, path, facts, time, width)

    def strip(self, path: Path, facts: Facts, reading: Interpretation, count: int, height: int) -> bytes:
        """`count` moments of a clip side by side, evenly through it, as one JPEG."""
        frame = own_frame(facts, reading)
        width = max(2, round(height * frame.raster.display_aspect))
        plan = Plan(interpretation=reading, frame=frame, surround=Plain())
        shown = []
        with ClipReader(path, facts) as reader:
            compositor = None
            for number in range(count):
                stored = reader.frame_at(facts.duration * (2 * number + 1) / (2 * count)).planes
                compositor = compositor or Compositor(plan, stored.layout, facts, (width, height))
                shown.append(to_rgb(compositor.compose(stored)))
        return encode_image(np.concatenate(shown, axis=1), ".jpg")


def own_frame(facts: Facts, reading: Interpretation) -> Frame:
    """A frame of the picture's own shape."""
    picture = read_as(facts, reading).picture
    return Frame(width=picture.width, height=picture.height, pixel_aspect=picture.pixel_aspect)


def preview_size(frame: Frame, width: int) -> tuple[int, int]:
    """Width and height in square pixels for looking at a frame."""
    wide = min(max(width, MIN_SIDE), MAX_SIDE)
    return wide, min(max(2, round(wide / frame.raster.display_aspect)), MAX_SIDE)
