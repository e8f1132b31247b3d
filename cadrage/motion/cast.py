"""Who is to be seen in a shot: evidence as a window sees it, person by person, and how much each matters."""

from dataclasses import dataclass
from fractions import Fraction
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from cadrage.analysis.following.evidence import Evidence, Thing
from cadrage.analysis.following.tracks import Kind
from cadrage.geometry import Raster
from cadrage.motion.pose import Pose, Stage

Floats = NDArray[np.float64]
MATTERS: dict[Kind, float] = {"face": 1.0, "person": 0.6, "mover": 0.5}
"""How much a subject matters, by the kind of evidence."""
SIDE = 0.12
"""Of the picture: a side from which something counts in full."""
SIZES = (0.35, 1.6)
LASTING = 12
"""Samples that something is to be there for before it counts in full."""
STIRS = 0.3
"""What counts of something that moves without getting anywhere."""
UNTRUSTED, TRUSTED, LEAST_TRUST = 0.5, 0.85, 0.05
"""How sure a detector is of something that is not to be believed at all, and in full; what counts of it at least."""
SEARCHED_EACH = 8
"""Samples from one search for faces and people to the next, at most."""
HIDDEN = 0.4
"""The factor by which confidence falls while a subject is hidden."""
AT_EDGE, LINGERS = 0.1, 3
"""Of the picture: what is nearer to its edge comes in or goes out there; and samples that it is waited for."""
HEADS = 4.0
"""How much more a face says of a person's position."""


@dataclass(frozen=True, slots=True)
class View:
    """A window on a picture, in parts of that picture counted from its centre, as poses are.

    Attributes:
        left, top, width, height: of the picture, in parts of the upright raster that evidence is told in.
        window: width and height of the window, in parts of the picture.
        reach: how far its middle may go either way; 0 where the picture does not reach across the frame.
        shape: width of the picture over its height, as it is seen.
    """

    left: float
    top: float
    width: float
    height: float
    window: tuple[float, float]
    reach: tuple[float, float]
    shape: float

    @classmethod
    def of(cls, stage: Stage, raster: Raster, pose: Pose) -> "View":
        """The view of a pose of a stage."""
        rect = stage.picture.rect
        slack = stage.slack(pose.scale, pose.angle)
        return cls(
            float(rect.x / raster.width),
            float(rect.y / raster.height),
            float(rect.width / raster.width),
            float(rect.height / raster.height),
            (1 - 2 * float(slack[0]), 1 - 2 * float(slack[1])),
            (max(0.0, float(slack[0])), max(0.0, float(slack[1]))),
            float(stage.picture.display_aspect),
        )

    def boxes(self, boxes: NDArray[np.float32]) -> Floats:
        """(n, 4): middles and sides told in parts of the raster, in those of the picture."""
        found = boxes[:, :4].astype(np.float64)
        found[:, 0] = (found[:, 0] - self.left) / self.width - 0.5
        found[:, 1] = (found[:, 1] - self.top) / self.height - 0.5
        found[:, 2] /= self.width
        found[:, 3] /= self.height
        return found


@dataclass(frozen=True, slots=True)
class Actor:
    """A subject over the samples of a shot.

    Attributes:
        who: their number in the evidence; -1 of a box that was drawn.
        kind: the most telling kind of its evidence.
        boxes: (s, 4): middle, width and height in parts of the picture; not a number while they are not there.
        heads: (s,): where the middle of their face is, down the picture; not a number while none is seen.
        sure: (s,): how sure that is, 0 to 1.
        matters: (s,): how much they do; 0 while they are not there.
    """

    who: int
    kind: Kind
    boxes: Floats
    heads: Floats
    sure: Floats
    matters: Floats

    @property
    def weight(self) -> float:
        """How much they matter in all of the shot."""
        return float(self.matters.sum())


def cast_of(evidence: Evidence, first: int, end: int, view: View) -> list[Actor]:
    """All subjects in some samples of a shot, the most important first."""
    members: dict[int, list[Thing]] = {}
    for thing in evidence.within(first, end):
        members.setdefault(thing.who, []).append(thing)
    camera = evidence.camera[first:end, :2].astype(np.float64)
    actors = [_actor(who, things, first, end, view, camera) for who, things in members.items()]
    return sorted(actors, key=lambda actor: (-actor.weight, actor.who))


def _actor(who: int, things: list[Thing], first: int, end: int, view: View, camera: Floats) -> Actor:
    count = end - first
    total, summed = np.zeros(count), np.zeros((count, 4))
    heads, sure, matters = np.full(count, np.nan), np.zeros(count), np.zeros(count)
    for thing in sorted(things, key=lambda one: one.kind == "face"):
        start, stop = max(thing.start, first), min(thing.end, end)
        own = thing.boxes[start - thing.start : stop - thing.start]
        boxes, at = view.boxes(own), slice(start - first, stop - first)
        counts = own[:, 4].astype(np.float64) * (HEADS if thing.kind == "face" else 1.0) + 1e-6
        total[at] += counts
        summed[at] += boxes * counts[:, None]
        if thing.kind == "face":
            heads[at] = boxes[:, 1]
        sure[at] = np.maximum(sure[at], own[:, 4])
        matters[at] = np.maximum(matters[at], own[:, 4] * _matter(thing, boxes, camera[at], view))
    there = total > 0
    boxes = np.full((count, 4), np.nan)
    boxes[there] = summed[there] / total[there, None]
    _bridge(boxes, sure, matters)
    _linger(boxes, sure, matters)
    kinds = {thing.kind for thing in things}
    kind: Kind = "face" if "face" in kinds else "person" if "person" in kinds else "mover"
    return Actor(who, kind, boxes, heads, sure, matters)


def _matter(thing: Thing, boxes: Floats, camera: Floats, view: View) -> float:
    """How much a subject matters: by its kind, size, duration, and whether it gets anywhere."""
    side = float(np.median(np.sqrt(boxes[:, 2] * boxes[:, 3])))
    matter = MATTERS[thing.kind] * min(max(side / SIDE, SIZES[0]), SIZES[1]) * min(1.0, len(thing.boxes) / LASTING)
    if thing.kind != "mover":
        return matter * _trust(thing)
    scene = np.cumsum(camera, axis=0) / (view.width, view.height)
    way = boxes[:, :2] - scene
    gone = float(np.ptp(way, axis=0).max())
    return matter * (STIRS + (1 - STIRS) * min(1.0, gone / (2 * side + 1e-6)))


def _trust(thing: Thing) -> float:
    """How far a detector is to be believed: by how sure it was, and how often it was of those times it looked."""
    scores = thing.boxes[thing.seen, 4]
    if not len(scores):
        return LEAST_TRUST
    sure = (float(scores.mean()) - UNTRUSTED) / (TRUSTED - UNTRUSTED)
    often = len(scores) * SEARCHED_EACH / len(thing.boxes)
    return min(max(sure * min(1.0, often), LEAST_TRUST), 1.0)


def _bridge(boxes: Floats, sure: Floats, matters: Floats) -> None:
    """Place a hidden subject evenly between where it disappeared and where it came back."""
    there = np.flatnonzero(~np.isnan(boxes[:, 0]))
    for before, after in pairwise(there):
        if after - before < 2:
            continue
        part = np.arange(1, after - before)[:, None] / (after - before)
        boxes[before + 1 : after] = boxes[before] + part * (boxes[after] - boxes[before])
        sure[before + 1 : after] = HIDDEN * min(sure[before], sure[after])
        matters[before + 1 : after] = HIDDEN * min(matters[before], matters[after])


def _linger(boxes: Floats, sure: Floats, matters: Floats) -> None:
    """Let a subject that enters or leaves at the picture's edge count a little before and after."""
    there = np.flatnonzero(~np.isnan(boxes[:, 0]))
    if not len(there):
        return
    for end, away in ((there[0], -1), (there[-1], 1)):
        if np.abs(boxes[end, :2]).max() < 0.5 - AT_EDGE:
            continue
        for number in range(1, LINGERS + 1):
            at = end + away * number
            if 0 <= at < len(boxes):
                boxes[at], sure[at], matters[at] = boxes[end], HIDDEN * sure[end], HIDDEN * matters[end]


def whole_seconds(times: Floats, start: Fraction) -> list[tuple[int, int]]:
    """Samples of each second from the start of a shot: numbers of the first and of that after the last."""
    if not len(times):
        return []
    seconds = np.floor(times - float(start) + 1e-6)
    edges = np.searchsorted(seconds, np.arange(seconds[-1] + 2))
    return [(int(first), int(end)) for first, end in pairwise(edges)]
