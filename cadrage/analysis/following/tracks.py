"""Things followed from picture to picture, forward as they come and then backward to where they came from."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Literal

from cadrage.analysis.detectors.box import Box
from cadrage.analysis.following.camera import CameraStep
from cadrage.analysis.following.flow import Patch, alike, moved, patch_of
from cadrage.analysis.following.samples import Grey

Kind = Literal["face", "person", "mover"]
KINDS: tuple[Kind, ...] = ("face", "person", "mover")

HITS: dict[Kind, int] = {"face": 1, "person": 2, "mover": 3}
"""How often something is to be detected before it is followed for good."""
PATIENCE = 3
"""Samples that something may be unlike itself before it is lost."""
PATIENCE_NEW: dict[Kind, int] = {"face": 4, "person": 18, "mover": 2}
"""Samples without a detection after which a new track is dropped."""
UNLIKE = 0.35
ALIKE_BACK = 0.55
LEARNS = 0.08
"""How fast what something looks like now is learned."""
POSITION: dict[Kind, float] = {"face": 0.8, "person": 0.3, "mover": 0.45}
GROWS: dict[Kind, float] = {"face": 0.5, "person": 0.3, "mover": 0.3}
SHRINKS: dict[Kind, float] = {"face": 0.5, "person": 0.2, "mover": 0.06}
"""How far a detection moves and sizes the box of its track."""
OVERLAPS = 0.2
INSIDE = 0.6
SAME = 0.5
"""Overlap from which two boxes are of one thing."""
MERGED = 1.6
"""How many times larger than a thing something that moves is where it is more than that thing."""
MOST_TRACKS = 16
POOR_FLOW = 0.2
SURE_WITHOUT = 0.97
"""The factor on a track's confidence, for each sample in which nothing detects it."""


@dataclass(slots=True)
class Track:
    """One thing over time.

    Attributes:
        kind: what detected it.
        start: number of the sample that `boxes` begins with.
        boxes: where it is in each sample, in pixels of small pictures; the score says how sure that is.
        hits: how often it was detected.
        alive: whether it is still followed.
    """

    kind: Kind
    start: int
    boxes: list[Box]
    first: Patch
    now: Patch
    hits: int = 1
    missed: int = 0
    unlike: int = 0
    alive: bool = True
    hit_at: list[int] = field(default_factory=list)

    @property
    def end(self) -> int:
        """The number of the sample after its last."""
        return self.start + len(self.boxes)

    @property
    def real(self) -> bool:
        """Whether it was detected often enough to be there."""
        return self.hits >= HITS[self.kind]

    def at(self, sample: int) -> Box | None:
        """Where it is in a sample."""
        return self.boxes[sample - self.start] if self.start <= sample < self.end else None

    def let_go(self, samples: int) -> None:
        """It is no more, and was not in the last few samples."""
        self.alive = False
        if samples:
            del self.boxes[max(1, len(self.boxes) - samples) :]


class Tracker:
    """Tracks the detections in the samples of a shot, given one after another."""

    def __init__(self) -> None:
        self.tracks: list[Track] = []
        self._before: Grey | None = None
        self._number = -1

    def step(self, grey: Grey, camera: CameraStep, detected: dict[Kind, list[Box]]) -> None:
        """Take in a sample.

        Args:
            grey: it.
            camera: how it lies over the sample before it.
            detected: what was found in it, by kind; a kind that was not looked for is not in it.
        """
        self._number += 1
        alive = [track for track in self.tracks if track.alive]
        if self._before is not None:
            goes = moved([track.boxes[-1] for track in alive], self._before, grey, camera)
            for track, went in zip(alive, goes, strict=True):
                self._advance(track, went.box, went.good, grey)
        alive = [track for track in alive if track.alive]
        for kind, found in detected.items():
            self._take(kind, found, alive, grey)
        self._drop_doubles(alive)
        self._before = grey

    def _advance(self, track: Track, box: Box, good: float, grey: Grey) -> None:
        """Let a track go on without a detection."""
        rows, columns = grey.shape
        if not (0 <= box.middle[0] < columns and 0 <= box.middle[1] < rows):
            track.let_go(0)
            return
        seen = patch_of(grey, box)
        like = max(alike(seen, track.first), alike(seen, track.now))
        track.unlike = track.unlike + 1 if like < UNLIKE or good < POOR_FLOW else 0
        track.missed += 1
        sure = track.boxes[-1].score * SURE_WITHOUT * (1 if like >= UNLIKE else 0.7)
        track.boxes.append(Box(box.x, box.y, box.width, box.height, sure))
        if track.unlike >= PATIENCE:
            track.let_go(PATIENCE)
        elif not track.real and track.missed > PATIENCE_NEW[track.kind]:
            track.let_go(track.missed)
        elif like >= UNLIKE:
            track.now = _unit((1 - LEARNS) * track.now + LEARNS * seen)

    def _take(self, kind: Kind, found: list[Box], alive: list[Track], grey: Grey) -> None:
        """Give detections to the tracks that they belong to; the others begin new ones."""
        own = [track for track in alive if track.kind == kind]
        for box in found:
            belongs = [track for track in own if _belongs(box, track.boxes[-1])]
            if kind == "mover" and _is_many(box, belongs):
                for track in belongs:
                    track.missed = 0
                continue
            if belongs:
                best = max(belongs, key=lambda track: (box.overlap(track.boxes[-1]), track.hits))
                self._hit(best, box, grey)
                own.remove(best)
            elif sum(track.alive for track in self.tracks) < MOST_TRACKS:
                seen = patch_of(grey, box)
                track = Track(kind, self._number, [box], seen, seen, hit_at=[self._number])
                self.tracks.append(track)
                alive.append(track)

    def _hit(self, track: Track, box: Box, grey: Grey) -> None:
        last, kind = track.boxes[-1], track.kind
        width, height = (
            old + (GROWS if new > old else SHRINKS)[kind] * (new - old)
            for old, new in ((last.width, box.width), (last.height, box.height))
        )
        x, y = (old + POSITION[kind] * (new - old) for old, new in zip(last.middle, box.middle, strict=True))
        rows, columns = grey.shape
        x, y = min(max(x, 0), columns - 1), min(max(y, 0), rows - 1)
        track.boxes[-1] = Box(
            x - width / 2, y - height / 2, width, height, box.score if kind == "face" else max(box.score, last.score)
        )
        track.hits, track.missed, track.unlike = track.hits + 1, 0, 0
        track.hit_at.append(self._number)
        seen = patch_of(grey, track.boxes[-1])
        track.now = _unit((1 - 2 * LEARNS) * track.now + 2 * LEARNS * seen)

    @staticmethod
    def _drop_doubles(alive: list[Track]) -> None:
        """Of two tracks that have become one, drop the one that was detected less often."""
        alive.sort(key=lambda track: -track.hits)
        for number, track in enumerate(alive):
            for other in alive[number + 1 :]:
                if other.alive and track.kind == other.kind and track.boxes[-1].overlap(other.boxes[-1]) > SAME:
                    other.let_go(0 if other.real else len(other.boxes))


def _unit(patch: Patch) -> Patch:
    length = float((patch * patch).sum()) ** 0.5
    return patch / length if length > 0 else patch


def _belongs(found: Box, track: Box) -> bool:
    """Whether a detection is of a thing: it overlaps it, or is a part of it."""
    both = found.shared(track)
    return found.overlap(track) > OVERLAPS or both > INSIDE * min(found.area, track.area)


def _is_many(found: Box, belongs: list[Track]) -> bool:
    """Whether what moves is several things at once, and says where none of them is."""
    real = [track for track in belongs if track.real]
    return len(real) > 1 and all(found.area > MERGED * track.boxes[-1].area for track in real)


def walked_back(tracks: Sequence[Track], greys: Sequence[Grey], cameras: Sequence[CameraStep]) -> None:
    """Follow every track backward from its first sample, as far as it is like itself.

    Args:
        tracks: of a shot; they begin earlier afterwards.
        greys: the samples of the shot.
        cameras: how each lies over the one before it.
    """
    for sample in range(len(greys) - 1, 0, -1):
        going = [track for track in tracks if track.start == sample and track.start > 0]
        if not going:
            continue
        boxes, back = [track.boxes[0] for track in going], cameras[sample].back
        goes = moved(boxes, greys[sample], greys[sample - 1], back, checked=False)
        rows, columns = greys[0].shape
        for track, went in zip(going, goes, strict=True):
            box = went.box
            like = alike(patch_of(greys[sample - 1], box), track.first)
            inside = 0 <= box.middle[0] < columns and 0 <= box.middle[1] < rows
            taken = any(
                other is not track
                and other.kind == track.kind
                and (there := other.at(sample - 1))
                and there.overlap(box) > SAME
                for other in tracks
            )
            if like >= ALIKE_BACK and went.good >= POOR_FLOW and inside and not taken:
                sure = track.boxes[0].score * SURE_WITHOUT
                track.boxes.insert(0, Box(box.x, box.y, box.width, box.height, sure))
                track.start -= 1
