"""Who could be followed in a shot, each with the picture on which they are seen best."""

from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

from cadrage.analysis.following.tracks import Kind
from cadrage.compose.following import Seen, scene_of
from cadrage.compose.shots import planned_shots, track_of
from cadrage.footage import MediaInfo, effective_timing
from cadrage.motion.cast import Actor, View
from cadrage.motion.chosen import box_of, overlap
from cadrage.motion.follow import Follow, SubjectBox
from cadrage.plan import Plan
from cadrage.values import Exact, Value

MOST = 8
SEEN = 0.15
"""Of a shot, or of how much the first matters: who is there for less, or matters less, is left out."""
AROUND = 0.25
"""Of a box: what is shown around it."""
SAME = 0.3
LEAST = 1e-4
Floats = NDArray[np.float64]


class CastMember(Value):
    """Somebody, or something, that could be followed.

    Attributes:
        subject: what to put into `Follow.subjects` to follow it.
        kind: what of it was seen.
        time: of the picture on which it is seen best, in seconds of the clip.
        left, top, width, height: what to show of that picture, in parts of it.
        share_percent: how much of the shot it is there for.
        chosen: whether it is followed by name.
    """

    subject: SubjectBox
    kind: Kind
    time: Exact
    left: float
    top: float
    width: float
    height: float
    share_percent: int
    chosen: bool


def cast_of_shot(plan: Plan, info: MediaInfo, seen: Seen, time: Fraction) -> tuple[CastMember, ...]:
    """Who could be followed in the shot of a time, those that matter most first."""
    number = track_of(plan, info).shot_at(time)
    span = planned_shots(plan, info)[number]
    follow = span.plan.motion.follow or Follow()
    bare = follow.model_copy(update={"subjects": ()})
    shot, _, view = scene_of(span.plan, info, seen, bare, span)
    asked = [(one, box_of(one, view)) for one in follow.subjects if span.start <= one.time < span.end]
    most = max((actor.weight for actor in shot.actors), default=0.0)
    found = []
    rate = effective_timing(info, plan.interpretation).rate
    for actor in shot.actors[:MOST]:
        there = np.flatnonzero(actor.matters > 0)
        if not len(there) or actor.weight < SEEN * most:
            continue
        best = int(there[np.argmax(_worth(actor)[there])])
        moment = Fraction(round(float(shot.times[best]) * float(rate))) / rate
        chosen = any(_is(actor, one, box, shot.times) for one, box in asked)
        found.append(_member(actor, best, moment, view, len(there) / max(1, len(shot.times)), chosen=chosen))
    return tuple(found)


def _worth(actor: Actor) -> Floats:
    """How well somebody is seen in each sample: large, surely, and away from the edges."""
    boxes = np.nan_to_num(actor.boxes)
    inside = np.clip((0.5 - np.abs(boxes[:, :2]).max(axis=1)) / 0.15, 0.05, 1)
    size = np.sqrt(np.maximum(boxes[:, 2] * boxes[:, 3], 0))
    return np.asarray(actor.sure * size * inside, np.float64)


def _is(actor: Actor, subject: SubjectBox, box: Floats, times: Floats) -> bool:
    at = int(np.argmin(np.abs(times - float(subject.time))))
    return bool(actor.matters[at] > 0) and overlap(actor.boxes[at], box) > SAME


def _member(actor: Actor, at: int, moment: Fraction, view: View, share: float, *, chosen: bool) -> CastMember:
    x, y, width, height = (float(side) for side in actor.boxes[at])
    side = max(width * view.shape, height) * (1 + 2 * AROUND)  # a square, as it is seen
    across, down = min(1.0, side / view.shape), min(1.0, side)
    subject = SubjectBox(
        time=moment,
        x=_brief((x + 0.5) * view.width + view.left),
        y=_brief((y + 0.5) * view.height + view.top),
        width=_brief(max(width * view.width, LEAST)),
        height=_brief(max(height * view.height, LEAST)),
    )
    return CastMember(
        subject=subject,
        kind=actor.kind,
        time=moment,
        left=min(max(x + 0.5 - across / 2, 0.0), 1 - across),
        top=min(max(y + 0.5 - down / 2, 0.0), 1 - down),
        width=across,
        height=down,
        share_percent=round(100 * share),
        chosen=chosen,
    )


def _brief(value: float) -> Fraction:
    return Fraction(round(value * 10**5), 10**5)
