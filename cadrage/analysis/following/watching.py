"""Reading a clip and looking at it, piece by piece."""

from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction
from math import ceil

import numpy as np
from numpy.typing import NDArray

from cadrage.analysis.base import Report, Subject
from cadrage.analysis.detectors.box import Box
from cadrage.analysis.detectors.faces import find_faces
from cadrage.analysis.detectors.subject import find_subjects
from cadrage.analysis.following.camera import STILL, CameraStep, camera_step, movers
from cadrage.analysis.following.evidence import COLUMNS, ROWS, Evidence, Thing
from cadrage.analysis.following.pieces import Piece, picture_jpeg
from cadrage.analysis.following.samples import EACH, GAP, Grey, Scene
from cadrage.analysis.following.tracks import Kind, Track, Tracker, walked_back
from cadrage.analysis.following.who import kept, same
from cadrage.analysis.shots import MOST_SHOTS, CutFinder, ShotsFound, Small
from cadrage.footage import DecodedFrame, Interpretation, open_footage

LONGEST_PIECE = 375
"""Samples that are looked at together: a minute."""
LAG = 13
"""Samples more that are waited for, since a cut may lie among them."""
SURE_OF_STANDING = 0.6
"""The share of points that must not have moved for the camera to stand."""
RUN_UP = Fraction(3)
"""Seconds before a piece from which a clip is read when it goes on there, more than cuts and searches need."""
FACES_EACH, TILES_EACH = 8, 16
PEOPLE_EACH, PEOPLE_AT = 8, 2
"""Samples from one search for faces to the next, and to one that looks for small ones in tiles; from one for people to
the next, and when that is. What comes between is followed back to where it came from.
"""


@dataclass(frozen=True, slots=True)
class Sample:
    """One picture that is looked at.

    Attributes:
        time: in seconds from the clip's first picture.
        grey: it, small.
        detected: what was found in it by itself, by kind.
        stands: whether the camera did just before it.
    """

    time: Fraction
    grey: Grey
    detected: dict[Kind, list[Box]]
    stands: bool


class Looker:
    """Takes samples out of the pictures of a clip, and analyses each of them.

    Args:
        scene: what part is looked at.
        since: the first moment of which a sample is wanted.
    """

    def __init__(self, scene: Scene, since: Fraction) -> None:
        self.scene = scene
        self._next = ceil(since / EACH)  # numbers of samples count from the beginning of the clip
        self._half: Grey | None = None

    def look(self, frame: DecodedFrame) -> Sample | None:
        """Take in a picture; a sample, where one is due."""
        if frame.time < self._next * EACH:
            if frame.time >= self._next * EACH - GAP and self._half is None:
                self._half = self.scene.small(frame.planes)
            return None
        grey = self.scene.small(frame.planes)
        detected: dict[Kind, list[Box]] = {"mover": []}
        stands = False
        if self._half is not None:
            camera = camera_step(self._half, grey)
            detected["mover"], stands = (
                movers(self._half, grey, camera),
                camera.still and camera.sure > SURE_OF_STANDING,
            )
        self._search(frame, detected)
        self._next = max(self._next + 1, ceil((frame.time + EACH / 4) / EACH))
        self._half = None
        return Sample(frame.time, grey, detected, stands)

    def _search(self, frame: DecodedFrame, detected: dict[Kind, list[Box]]) -> None:
        """Look for faces and people where that is due; by the sample's number, so that it does not depend on where
        looking was begun.
        """
        number = self._next
        faces = number % FACES_EACH == 0
        people = number % PEOPLE_EACH == PEOPLE_AT
        if not faces and not people:
            return
        picture = self.scene.colour(frame.planes)
        if faces:
            detected["face"] = find_faces(picture, in_tiles=number % TILES_EACH == 0)
        if people:
            detected["person"] = find_subjects(picture)


def new_pieces(
    subject: Subject, decoding: Interpretation, scene: Scene, there: list[Piece], report: Report
) -> Iterator[Piece]:
    """All missing pieces of a clip, each as soon as it is analysed."""
    done, duration = (there[-1].end if there else Fraction(0)), subject.info.duration
    if there and done >= duration:
        return
    known = subject.known.get("shots")
    finder = Known(known) if isinstance(known, ShotsFound) else Found()
    since = max(Fraction(0), done - RUN_UP)
    looker, cutter = Looker(scene, since), Cutter(scene, there, done)
    with open_footage(subject.path, subject.info, decoding, rough=True) as reader:
        for frame in reader.frames_from(since):
            report(min(1.0, float(frame.time / duration)) if duration else 1.0)
            sample = looker.look(frame)
            if sample is not None and sample.time >= done:
                cutter.waiting.append(sample)
            for cut in finder.add(frame):
                if cut > done:
                    yield cutter.cut(cut)
            if len(cutter.waiting) >= LONGEST_PIECE + LAG:
                yield cutter.full()
    for cut in finder.end():
        if cut > done:
            yield cutter.cut(cut)
    yield cutter.cut(max(duration, cutter.since + EACH / 100))


class Found:
    """Cuts as they are found by looking."""

    def __init__(self) -> None:
        self._finder = CutFinder()

    def add(self, frame: DecodedFrame) -> list[Fraction]:
        """Take in a picture; cuts that are known by now."""
        return self._finder.add(Small.of(frame.time, frame.planes))

    def end(self) -> list[Fraction]:
        """No more come."""
        return self._finder.end()


class Known:
    """Cuts that were found before."""

    def __init__(self, shots: ShotsFound) -> None:
        self._coming = list(shots.starts[1:])

    def add(self, frame: DecodedFrame) -> list[Fraction]:
        """Take in a picture; cuts that come before or with it."""
        passed = [start for start in self._coming if start <= frame.time]
        del self._coming[: len(passed)]
        return passed

    def end(self) -> list[Fraction]:
        """No more come."""
        return []


class Cutter:
    """Makes pieces of samples.

    Args:
        scene: what part is looked at.
        there: pieces that are there already.
        since: where they end.
    """

    def __init__(self, scene: Scene, there: list[Piece], since: Fraction) -> None:
        self.scene, self.since = scene, since
        self.waiting: list[Sample] = []
        self._number = len(there)
        self._shot = there[-1].shot + there[-1].cut_after if there else 0

    def cut(self, at: Fraction) -> Piece:
        """A shot ends at a time."""
        return self._piece(sum(sample.time < at for sample in self.waiting), at, cut=self._shot < MOST_SHOTS - 1)

    def full(self) -> Piece:
        """Enough is there for a piece, within a shot."""
        return self._piece(LONGEST_PIECE, self.waiting[LONGEST_PIECE].time, cut=False)

    def _piece(self, count: int, end: Fraction, *, cut: bool) -> Piece:
        samples, self.waiting = self.waiting[:count], self.waiting[count:]
        pictures = tuple(picture_jpeg(sample.grey) for sample in samples)
        piece = Piece(self._number, self._shot, self.since, end, cut, _seen(samples, self.scene), pictures)
        self.since, self._number, self._shot = end, self._number + 1, self._shot + cut
        return piece


def _seen(samples: list[Sample], scene: Scene) -> Evidence:
    """The things in some samples of a shot, tracked both ways."""
    steps = [CameraStep(STILL, 0.0)]
    tracker = Tracker()
    for number, sample in enumerate(samples):
        if number:
            stands = sample.stands and samples[number - 1].stands
            step = CameraStep(STILL, 1.0) if stands else camera_step(samples[number - 1].grey, sample.grey)
            steps.append(step)
        tracker.step(sample.grey, steps[-1], sample.detected)
    tracks = kept(tracker.tracks)
    walked_back(tracks, [sample.grey for sample in samples], steps)
    things = [_thing(track, who, scene) for track, who in zip(tracks, same(tracks), strict=True)]
    energy = [_energy(sample.detected["mover"], scene) for sample in samples]
    return Evidence(
        np.array([float(sample.time) for sample in samples], np.float64),
        np.zeros(len(samples), np.int32),
        np.array([_camera(step, scene) for step in steps[: len(samples)]], np.float32).reshape(-1, 3),
        np.array([across for across, _ in energy], np.uint8).reshape(-1, COLUMNS),
        np.array([down for _, down in energy], np.uint8).reshape(-1, ROWS),
        tuple(sorted(things, key=lambda thing: thing.start)),
        scene.part,
    )


def _thing(track: Track, who: int, scene: Scene) -> Thing:
    across, down = scene.width / scene.size[0] / scene.raster[0], scene.height / scene.size[1] / scene.raster[1]
    boxes = [(*scene.on_raster(*box.middle), box.width * across, box.height * down, box.score) for box in track.boxes]
    seen = np.isin(np.arange(track.start, track.end), track.hit_at)
    return Thing(who, track.kind, track.start, np.array(boxes, np.float32), seen)


def _camera(step: CameraStep, scene: Scene) -> tuple[float, float, float]:
    """How far the middle of the scene moved, in parts of the raster."""
    columns, rows = scene.size
    middle = np.array([columns / 2, rows / 2])
    away = step.matrix[:, :2] @ middle + step.matrix[:, 2] - middle
    x, y = away[0] * scene.width / columns / scene.raster[0], away[1] * scene.height / rows / scene.raster[1]
    return float(x), float(y), step.sure


def _energy(moving: list[Box], scene: Scene) -> tuple[NDArray[np.uint8], NDArray[np.uint8]]:
    """How much moves in each column and in each row of fields of the raster, 0 to 255."""
    columns, rows = np.zeros(COLUMNS), np.zeros(ROWS)
    for box in moving:
        left, top = scene.on_raster(box.x, box.y)
        right, bottom = scene.on_raster(box.x + box.width, box.y + box.height)
        columns += _covered(left, right, COLUMNS) * (bottom - top)
        rows += _covered(top, bottom, ROWS) * (right - left)
    return _codes(columns), _codes(rows)


def _covered(start: float, end: float, fields: int) -> NDArray[np.float64]:
    """The share of each field that lies between two places."""
    edges = np.arange(fields + 1) / fields
    inside = np.minimum(end, edges[1:]) - np.maximum(start, edges[:-1])
    return np.asarray(np.clip(inside * fields, 0, 1), np.float64)


def _codes(shares: NDArray[np.float64]) -> NDArray[np.uint8]:
    return np.asarray(np.clip(np.round(shares * 255), 0, 255), np.uint8)
