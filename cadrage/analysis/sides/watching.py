"""Every picture of a clip looked at once: where its camera looks, and what happens at its edges.

While the camera stands, each picture is compared with what usually is at the edges in that time. Of what was seen only
numbers stay, a few for each picture, so that an hour takes the memory of a minute.
"""

from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

from cadrage.analysis.following.samples import Scene
from cadrage.analysis.shots import SPAN, CutFinder, Small
from cadrage.analysis.sides.bands import Band, Touched, Usual, bands_of, touched_in, usuals_of
from cadrage.extend import camera as cam
from cadrage.extend.camera import Grey, Matrix
from cadrage.extend.request import SIDES, Side
from cadrage.footage.pictures import DecodedFrame

STANDS = 3.0
"""Pixels that the picture may move from where it stood before the camera counts as moving."""
LOST = 0.15
WEAK = 0.3
MOST_HELD = 600
"""Pictures whose edges are held in memory."""
MEDIAN_OF = 48
FEWEST = 8
CHANGED = 0.12
"""Of an edge: where more is otherwise for a while than usually, somebody stands there."""


@dataclass
class ShotSeen:
    """The evidence of a shot, picture by picture.

    Attributes:
        start: time of its first picture, in seconds of the clip.
        times: of its pictures.
        poses: from a picture's pixels to those of the shot's first, 2×3, at the size that is looked at.
        runs: for each, the number of the stretch in which the camera stands; alone where it moves.
        steps: how far the corners moved from the picture before, in pixels of 480.
        edges, bands: what differs at each side, NaN where that could not be told.
    """

    start: Fraction
    times: list[Fraction] = field(default_factory=list)
    poses: list[Matrix] = field(default_factory=list)
    runs: list[int] = field(default_factory=list)
    steps: list[float] = field(default_factory=list)
    edges: list[tuple[float, ...]] = field(default_factory=list)
    bands: list[tuple[float, ...]] = field(default_factory=list)

    def mark(self, first: int, touched: list[Touched]) -> None:
        """Note what differs in pictures from one on."""
        for number, one in enumerate(touched, start=first):
            self.edges[number], self.bands[number] = one.edges, one.bands


UNTOLD = (float("nan"),) * 4


class Watcher:
    """Looks at the pictures of one shot, one after another.

    Args:
        start: of the shot.
        size: columns and rows that are looked at.
    """

    def __init__(self, start: Fraction, size: tuple[int, int]) -> None:
        self.shot, self._size = ShotSeen(start), size
        self._key: Grey | None = None
        self._before: Grey | None = None
        self._places: NDArray[np.float32] | None = None
        self._base: Matrix = cam.STILL
        self._standing: Matrix = cam.STILL
        self._run = 0
        self._first = 0  # of the pictures whose bands are held
        self._held: list[tuple[Band, ...]] = []
        self._usuals: list[tuple[int, int, dict[Side, Usual]]] = []

    def add(self, time: Fraction, picture: Grey) -> None:
        """Look at the next picture: Y′CbCr, (rows, columns, 3)."""
        shot, grey = self.shot, np.ascontiguousarray(picture[..., 0])
        pose = self._pose(grey)
        if shot.poses:
            step = cam.then(pose, cam.back(shot.poses[-1]))
            shot.steps.append(cam.Registration(step, 1.0).moved(*self._size))
        else:
            shot.steps.append(0.0)
        apart = cam.Registration(cam.then(pose, cam.back(self._standing)), 1.0).moved(*self._size)
        if apart > STANDS or len(self._held) >= MOST_HELD:
            self._judge()
            if apart > STANDS:
                self._settle()
                self._run, self._standing = self._run + 1, pose
        shot.times.append(time)
        shot.poses.append(pose)
        shot.runs.append(self._run)
        shot.edges.append(UNTOLD)
        shot.bands.append(UNTOLD)
        self._held.append(bands_of(picture))
        self._before = grey

    def end(self) -> ShotSeen:
        """No more pictures of this shot come."""
        self._judge()
        self._settle()
        return self.shot

    def _pose(self, grey: Grey) -> Matrix:
        """Where a picture lies, on the shot's first."""
        if self._key is None:
            self._take_as_key(grey, cam.STILL)
            return cam.STILL
        guess = cam.then(self._base, cam.back(self.shot.poses[-1])) if self.shot.poses else None
        found = cam.register(self._key, grey, self._places, guess)
        if found.sure < WEAK and self._before is not None and self.shot.poses:
            self._take_as_key(self._before, self.shot.poses[-1])
            found = cam.register(self._before, grey, self._places)
        if found.sure < LOST:
            return self.shot.poses[-1]
        return cam.then(cam.back(found.matrix), self._base)

    def _take_as_key(self, grey: Grey, pose: Matrix) -> None:
        self._key, self._base, self._places = grey, pose, cam.features(grey)

    def _judge(self) -> None:
        """Compare what is held with what usually is at the edges, and let go of it."""
        held, first = self._held, self._first
        self._held, self._first = [], first + len(held)
        if len(held) < FEWEST:
            return
        chosen = np.unique(np.linspace(0, len(held) - 1, MEDIAN_OF).astype(int))
        usuals = usuals_of([held[at] for at in chosen])
        self.shot.mark(first, [touched_in(bands, usuals) for bands in held])
        self._usuals.append((first, len(held), usuals))

    def _settle(self) -> None:
        """Compare the parts of a stretch in which the camera stood: what is usual in one may not be in the others."""
        parts, self._usuals = self._usuals, []
        if len(parts) < 2:
            return
        for side_number, side in enumerate(SIDES):
            whole = np.median(np.stack([usuals[side].median for _, _, usuals in parts]), axis=0)
            slack = np.max(np.stack([usuals[side].slack for _, _, usuals in parts]), axis=0)
            usual = Usual(whole.astype(np.float32), slack)
            for first, count, usuals in parts:
                edge, band = usual.apart(usuals[side].median)
                if edge > CHANGED:
                    self._stood_there(first, count, side_number, edge, band)

    def _stood_there(self, first: int, count: int, side: int, edge: float, band: float) -> None:
        for number in range(first, first + count):
            edges, bands = list(self.shot.edges[number]), list(self.shot.bands[number])
            edges[side], bands[side] = max(edges[side], edge), max(bands[side], band)
            self.shot.edges[number], self.shot.bands[number] = tuple(edges), tuple(bands)


def watched(frames: Iterator[DecodedFrame], scene: Scene, report: Callable[[Fraction], None]) -> Iterator[ShotSeen]:
    """The shots of a clip, each once it is over. Cuts are known a few pictures late; those pictures wait."""
    finder = CutFinder()
    waiting: list[tuple[Fraction, Grey]] = []
    watcher: Watcher | None = None
    for frame in frames:
        report(frame.time)
        waiting.append((frame.time, scene.ycc(frame.planes)))
        cuts = finder.add(Small.of(frame.time, frame.planes))
        watcher = watcher or Watcher(frame.time, scene.size)
        for cut in cuts:
            before = [one for one in waiting if one[0] < cut]
            waiting = waiting[len(before) :]
            _all(watcher, before)
            yield watcher.end()
            watcher = Watcher(cut, scene.size)
        while len(waiting) > SPAN:
            watcher.add(*waiting.pop(0))
    for cut in finder.end():
        before = [one for one in waiting if one[0] < cut]
        waiting = waiting[len(before) :]
        if watcher is not None:
            _all(watcher, before)
            yield watcher.end()
        watcher = Watcher(cut, scene.size)
    if watcher is not None:
        _all(watcher, waiting)
        yield watcher.end()


def _all(watcher: Watcher, pictures: list[tuple[Fraction, Grey]]) -> None:
    for time, grey in pictures:
        watcher.add(time, grey)
