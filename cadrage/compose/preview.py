"""Composed frames for looking at, quickly: decoded pictures and prepared compositors are kept for a while."""

import threading
from collections import OrderedDict
from fractions import Fraction
from pathlib import Path

import numpy as np

from cadrage.compose.compositor import Compositor
from cadrage.compose.moment import moment_of
from cadrage.footage import EMPTY, Facts, FrameStore, Interpretation, Library, open_footage, read_as, taken_as
from cadrage.footage.interpretation import BELIEVABLE
from cadrage.formats import Frame
from cadrage.formats.frames import MAX_SIDE, MIN_SIDE
from cadrage.pixels.planes import Layout
from cadrage.pixels.rgb import encode_image, to_rgb
from cadrage.plan import Plan
from cadrage.surrounds import Plain

COMPOSITORS = 12


class Previewer:
    """Composes frames for looking at; safe to share between threads."""

    def __init__(self, store: FrameStore | None = None) -> None:
        self.store = store or FrameStore()
        self._compositors: OrderedDict[str, tuple[Compositor, threading.Lock]] = OrderedDict()
        self._lock = threading.Lock()

    def image(
        self,
        plan: Plan,
        path: Path,
        facts: Facts,
        time: Fraction,
        width: int,
        *,
        suffix: str = ".jpg",
        library: Library = EMPTY,
    ) -> bytes:
        """The composed frame at a time, `width` square pixels wide, as an image file."""
        frame = self.store.frame(path, facts, plan.interpretation, time)
        stored = frame.planes
        size = preview_size(plan.frame, width)
        compositor, lock = self._compositor(plan, facts, size, stored.layout, library)
        with lock:
            planes = compositor.compose(stored, time=moment_of(frame, time))
        return encode_image(to_rgb(planes), suffix)

    def middle(self, plan: Plan, path: Path, facts: Facts, width: int, library: Library = EMPTY) -> bytes:
        """The composed frame in the middle of its clip, as a JPEG."""
        time = taken_as(facts, plan.interpretation).duration / 2
        return self.image(plan, path, facts, time, width, library=library)

    def _compositor(
        self, plan: Plan, facts: Facts, size: tuple[int, int], layout: Layout, library: Library
    ) -> tuple[Compositor, threading.Lock]:
        key = f"{plan.model_dump_json()} {facts.model_dump_json()} {size} {layout} {library.state_of(plan.names)}"
        with self._lock:
            if (held := self._compositors.get(key)) is not None:
                self._compositors.move_to_end(key)
                return held
        made = (Compositor(plan, layout, facts, size, library=library), threading.Lock())
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
        lasts = taken_as(facts, reading).duration
        with open_footage(path, facts, reading) as reader:
            compositor = None
            for number in range(count):
                stored = reader.frame_at(lasts * (2 * number + 1) / (2 * count)).planes
                compositor = compositor or Compositor(plan, stored.layout, facts, (width, height))
                shown.append(to_rgb(compositor.compose(stored)))
        return encode_image(np.concatenate(shown, axis=1), ".jpg")


def own_frame(facts: Facts, reading: Interpretation) -> Frame:
    """A frame of the picture's own shape and, within what a frame can be, its own size."""
    picture = read_as(facts, reading).picture
    part = min(Fraction(1), MAX_SIDE / max(picture.width, picture.height))
    width, height = (max(MIN_SIDE, round(side * part)) for side in (picture.width, picture.height))
    aspect = picture.display_aspect * height / width
    return Frame(width=width, height=height, pixel_aspect=min(max(aspect, BELIEVABLE[0]), BELIEVABLE[1]))


def preview_size(frame: Frame, width: int) -> tuple[int, int]:
    """Width and height in square pixels for looking at a frame."""
    wide = min(max(width, MIN_SIDE), MAX_SIDE)
    return wide, min(max(2, round(wide / frame.raster.display_aspect)), MAX_SIDE)
