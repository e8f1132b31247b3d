"""Composed frames for looking at, quickly: decoded pictures and prepared compositors are kept for a while."""

import threading
from fractions import Fraction
from pathlib import Path
from typing import Literal

import numpy as np
from cachetools import LRUCache
from numpy.typing import NDArray

from cadrage.compose.compositor import Compositor
from cadrage.compose.extending import plate_states
from cadrage.compose.identity import clips_of, result_key
from cadrage.compose.moment import moment_of
from cadrage.compose.shots import telling_moments
from cadrage.compose.target import screen_layout
from cadrage.footage import (
    EMPTY,
    ClipIdentity,
    FrameStore,
    Interpretation,
    Library,
    MediaInfo,
    effective_timing,
    open_footage,
    resolve,
)
from cadrage.footage.interpretation import BELIEVABLE
from cadrage.formats import Frame
from cadrage.formats.frames import MAX_SIDE, MIN_SIDE
from cadrage.pixels.planes import Layout, Planes
from cadrage.pixels.rgb import encode_image, to_rgb
from cadrage.plan import Plan
from cadrage.surrounds import Plain

COMPOSITOR_PIXELS = 5_000_000
"""Of all compositors that are kept, each as large as what it draws: three of the bench's well, or many tiles."""


At = Literal["first", "middle", "last"]
Held = tuple[Compositor, threading.Lock]
Part = tuple[int, int]
"""A part of a clip, counted from 0, and how many alike it has."""
WHOLE: Part = (0, 1)


def _pixels(held: Held) -> int:
    layout = held[0].layout
    return min(layout.width * layout.height, COMPOSITOR_PIXELS)


class Previewer:
    """Composes frames for looking at; safe to share between threads."""

    def __init__(self, store: FrameStore | None = None) -> None:
        self.store = store or FrameStore()
        self._compositors: LRUCache[str, Held] = LRUCache(COMPOSITOR_PIXELS, getsizeof=_pixels)
        self._lock = threading.Lock()

    def image(
        self,
        plan: Plan,
        path: Path,
        info: MediaInfo,
        time: Fraction,
        width: int,
        *,
        suffix: str = ".jpg",
        library: Library = EMPTY,
        identity: ClipIdentity | None = None,
    ) -> bytes:
        """The composed frame at a time, `width` square pixels wide, as an image file. What the clip's identity is now
        is asked of its file unless it is given.
        """
        return encode_image(self.rgb(plan, path, info, time, width, library=library, identity=identity), suffix)

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
        """The same as R'G'B', rows by columns by 3."""
        canvas = screen_layout(plan.frame, preview_size(plan.frame, width))
        return to_rgb(self.planes(plan, path, info, time, canvas, library=library, identity=identity))

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
        """The composed frame at a time, in a layout of its size and colour."""
        own = identity or ClipIdentity.of(path)
        frame = self.store.frame(path, info, plan.interpretation, time, identity=own)
        stored = frame.planes
        compositor, lock = self._compositor(plan, info, own, canvas, stored.layout, library)
        with lock:
            return compositor.compose(stored, time=moment_of(info, frame, time))

    def at(
        self,
        which: At,
        plan: Plan,
        path: Path,
        info: MediaInfo,
        width: int,
        library: Library = EMPTY,
        identity: ClipIdentity | None = None,
    ) -> bytes:
        """The composed frame in the middle of its clip, or the first or last that is delivered, as a JPEG."""
        time = _moment(which, plan, info)
        return self.image(plan, path, info, time, width, library=library, identity=identity)

    def telling(
        self, plan: Plan, path: Path, info: MediaInfo, width: int, library: Library = EMPTY
    ) -> tuple[bytes, ...]:
        """The composed frames that tell a framing, as JPEGs; see `telling_moments`."""
        times = telling_moments(plan, info)
        return tuple(self.image(plan, path, info, time, width, library=library) for time in times)

    def _compositor(
        self, plan: Plan, info: MediaInfo, own: ClipIdentity, canvas: Layout, layout: Layout, library: Library
    ) -> Held:
        clips = clips_of(plan, own, library) | plate_states(plan, info, library)
        key = result_key(plan, clips, canvas=str(canvas), layout=str(layout), info=info.model_dump_json())
        with self._lock:
            if (held := self._compositors.get(key)) is not None:
                return held
        made = (Compositor(plan, layout, info, canvas, library=library), threading.Lock())
        with self._lock:
            self._compositors[key] = made
        return made

    def picture(
        self,
        path: Path,
        info: MediaInfo,
        reading: Interpretation,
        time: Fraction,
        width: int,
        identity: ClipIdentity | None = None,
    ) -> bytes:
        """The picture alone, upright and in its true shape, as a JPEG."""
        return self.image(picture_alone(info, reading), path, info, time, width, identity=identity)

    def strip(
        self, path: Path, info: MediaInfo, reading: Interpretation, count: int, height: int, part: Part = WHOLE
    ) -> bytes:
        """`count` moments of a clip, or of a part of it, side by side and evenly through it, as one JPEG."""
        plan = picture_alone(info, reading)
        width = max(2, round(height * plan.frame.raster.display_aspect))
        if info.kind == "still":
            return encode_image(np.tile(self.rgb(plan, path, info, Fraction(0), width), (1, count, 1)), ".jpg")
        shown = []
        lasts = effective_timing(info, reading).duration
        with open_footage(path, info, reading) as reader:
            compositor = None
            number, parts = part
            for moment in range(count):
                stored = reader.frame_at(lasts * (number + Fraction(2 * moment + 1, 2 * count)) / parts).planes
                compositor = compositor or Compositor(plan, stored.layout, info, (width, height))
                shown.append(to_rgb(compositor.compose(stored)))
        return encode_image(np.concatenate(shown, axis=1), ".jpg")


def _moment(which: At, plan: Plan, info: MediaInfo) -> Fraction:
    taken = effective_timing(info, plan.interpretation)
    if which == "middle":
        return taken.duration / 2
    if which == "first":
        return plan.range.start
    end = taken.duration if plan.range.end is None else min(plan.range.end, taken.duration)
    return max(plan.range.start, end - 1 / (2 * taken.rate))


def picture_alone(info: MediaInfo, reading: Interpretation) -> Plan:
    """The plan that shows the picture and nothing else."""
    return Plan(interpretation=reading, frame=own_frame(info, reading), surround=Plain())


def own_frame(info: MediaInfo, reading: Interpretation) -> Frame:
    """A frame of the picture's own shape and, within what a frame can be, its own size."""
    picture = resolve(info, reading).picture
    part = min(Fraction(1), MAX_SIDE / max(picture.width, picture.height))
    width, height = (max(MIN_SIDE, round(side * part)) for side in (picture.width, picture.height))
    aspect = picture.display_aspect * height / width
    return Frame(width=width, height=height, pixel_aspect=min(max(aspect, BELIEVABLE[0]), BELIEVABLE[1]))


def preview_size(frame: Frame, width: int) -> tuple[int, int]:
    """Width and height in square pixels for looking at a frame."""
    wide = min(max(width, MIN_SIDE), MAX_SIDE)
    return wide, min(max(2, round(wide / frame.raster.display_aspect)), MAX_SIDE)
