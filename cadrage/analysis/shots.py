"""Where one shot of a clip ends and the next begins, exact to the picture.

Every picture is looked at small, and how much it differs from the one before is compared with how much its neighbours
do: a cut is a difference that stands alone. A flash is two of them close together with the same picture on either side;
a whip pan and a fade differ for many pictures in turn. Dissolves are not guessed. Weights and limits come from our own
trials on made and real clips; see docs/movement.md.
"""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

import cv2
import numpy as np
from numpy.typing import NDArray

from cadrage.analysis.base import Analysis, Found, NotFound, Outcome, Report, Subject, no_progress
from cadrage.footage import Interpretation, MediaInfo, open_footage
from cadrage.pixels.planes import Planes
from cadrage.values import Exact, Value

SIZE = (160, 90)
"""Columns and rows that pictures are looked at in."""
ENOUGH = 360
"""Lines of a plane that are looked at, about; of taller ones every fourth, or fewer."""
GRID = (16, 9)
LUMA_BINS, CHROMA_BINS = 16, 32
HISTOGRAMS, LAYOUT = 0.6, 0.6
CUT = 0.16
"""The least difference of a cut."""
ALONE = 2.2
"""How many times the largest difference on its quieter side a cut is."""
BESIDE = 1.6
"""How many times the largest difference on its louder side."""
AROUND = 6
"""Pictures on either side that are around it."""
NEAR = 2
"""Pictures on either side that what stands alone at least stands alone among."""
FLASH = 4
"""Pictures that a flash may last."""
BACK = 0.5
"""Of a difference: what the picture after a flash may differ from the one before it."""
SPAN = AROUND + FLASH + 1
"""Pictures after one that are looked at before it is judged."""
MOST_SHOTS = 2000


class ShotsFound(Value):
    """The shots of a clip.

    Attributes:
        starts: time of the first picture of each, in seconds from the clip's first; the first is 0.
        summary: the same in few words.
    """

    starts: tuple[Exact, ...]
    summary: str


@dataclass(frozen=True, slots=True)
class Small:
    """A picture as far as it is looked at.

    Attributes:
        time: in seconds from the clip's first.
        histogram: how much of it is how light and of which colour; luma and both chroma, each summing to 1.
        layout: its luma in few fields, without its mean, codes of 8 bits.
    """

    time: Fraction
    histogram: NDArray[np.float32]
    layout: NDArray[np.float32]

    @classmethod
    def of(cls, time: Fraction, planes: Planes) -> "Small":
        """Of a decoded picture."""
        shift = planes.layout.depth - 8
        parts = []
        for plane, bins in zip(planes.arrays, (LUMA_BINS, CHROMA_BINS, CHROMA_BINS), strict=True):
            lines = plane[:: 2 * max(1, len(plane) // ENOUGH)]  # of one field, where there are two
            codes = (lines >> shift if shift > 0 else lines).astype(np.uint8, copy=False)
            parts.append((cv2.resize(codes, SIZE, interpolation=cv2.INTER_AREA), bins))
        counts = [cv2.calcHist([codes], [0], None, [bins], [0, 256]).ravel() for codes, bins in parts]
        histogram = np.concatenate([found / found.sum() for found in counts]).astype(np.float32)
        small = cv2.resize(parts[0][0], GRID, interpolation=cv2.INTER_AREA).astype(np.float32)
        return cls(time, histogram, small - small.mean())

    def apart(self, other: "Small") -> float:
        """How much two pictures differ: 0 not at all; cuts are beyond 0.16."""
        colours = np.abs(self.histogram - other.histogram).sum() / 6
        fields = np.abs(self.layout - other.layout).mean() / 64
        return float(HISTOGRAMS * colours * 2 + LAYOUT * fields)


class ShotsAnalysis(Analysis[ShotsFound]):
    """Where shots begin."""

    kind = "shots"
    slow = True
    on_request = True
    result = ShotsFound

    def find(self, subject: Subject, report: Report = no_progress) -> Outcome[ShotsFound]:
        """Look at every picture."""
        if subject.info.kind != "clip":
            return NotFound("A still is one shot.")
        return Found(result=find_shots(subject.path, subject.info, report))


def find_shots(path: Path, info: MediaInfo, report: Report = no_progress) -> ShotsFound:
    """Look at every picture of a clip; memory does not grow with its length.

    Raises:
        MissingSource, UnreadableFile: it cannot be read. Cancelled: `report` said so.
    """
    starts = (Fraction(0), *cuts(smalls(path, info, report)))[:MOST_SHOTS]
    return ShotsFound(starts=starts, summary=shots_summary(len(starts)))


def shots_summary(count: int) -> str:
    """The number of shots, as text."""
    return "one shot" if count == 1 else f"{count} shots"


def smalls(path: Path, info: MediaInfo, report: Report = no_progress) -> Iterator[Small]:
    """Every picture of a clip, small."""
    with open_footage(path, info, Interpretation(fields="progressive")) as reader:
        for frame in reader.frames():
            report(min(1.0, float(frame.time / info.duration)) if info.duration else 1.0)
            yield Small.of(frame.time, frame.planes)


class CutFinder:
    """Finds the pictures that begin another shot, of pictures handed in one after another; what lies far behind is let
    go.
    """

    def __init__(self) -> None:
        self._window: list[Small] = []
        self._apart: list[float] = []  # of each picture of the window from the one before it
        self._done = 0

    def add(self, picture: Small) -> list[Fraction]:
        """Take in the next picture; says at which times shots begin, as far as that is known by now."""
        self._apart.append(self._window[-1].apart(picture) if self._window else 0.0)
        self._window.append(picture)
        found = self._judged(len(self._window) - SPAN)
        if len(self._window) > 4 * SPAN:
            gone = self._done - SPAN
            del self._window[:gone], self._apart[:gone]
            self._done -= gone
        return found

    def end(self) -> list[Fraction]:
        """No more pictures come."""
        return self._judged(len(self._window))

    def _judged(self, last: int) -> list[Fraction]:
        places = range(self._done, max(last, self._done))
        self._done = places.stop
        return [self._window[at].time for at in places if _is_cut(at, self._window, self._apart)]


def cuts(pictures: Iterable[Small]) -> Iterator[Fraction]:
    """Times of the pictures that begin another shot, in their order."""
    finder = CutFinder()
    for picture in pictures:
        yield from finder.add(picture)
    yield from finder.end()


def _is_cut(at: int, window: list[Small], apart: list[float]) -> bool:
    own = apart[at]
    if at == 0 or own <= CUT:
        return False
    before = _loudest(at, range(max(1, at - AROUND), at), window, apart)
    after = _loudest(at, range(at + 1, min(len(apart), at + 1 + AROUND)), window, apart)
    # Behind a cut a fade may begin at once: one side may be louder than the other.
    if own <= ALONE * min(before, after) or own <= BESIDE * max(before, after):
        return False
    return not _flashes(at, window, own)


def _loudest(own: int, places: range, window: list[Small], apart: list[float]) -> float:
    """The largest difference around one, without those of flashes, and of other cuts a few pictures away."""
    loud = (
        apart[at]
        for at in places
        if apart[at] <= CUT or not (_flashes(at, window, apart[at]) or (abs(at - own) > NEAR and _peak(at, apart)))
    )
    return max(loud, default=0.0)


def _peak(at: int, apart: list[float]) -> bool:
    beside = [*apart[max(1, at - NEAR) : at], *apart[at + 1 : at + 1 + NEAR]]
    return apart[at] > ALONE * max(beside, default=0.0)


def _flashes(at: int, window: list[Small], own: float) -> bool:
    """Whether a picture soon after is again as one just before: what lies between is a flash, or part of one."""
    return any(
        window[before].apart(window[after]) < BACK * own
        for before in range(max(0, at - FLASH), at)
        for after in range(at, min(len(window), before + FLASH + 2))
        if after - before > 1
    )
