"""Follow a subject: from the analysis of a clip to the path that is stored in the plan."""

from collections.abc import Callable
from dataclasses import dataclass, field, replace
from fractions import Fraction

import numpy as np

from cadrage.analysis.following.evidence import Evidence
from cadrage.compose.cutting import in_shot, shot_of, with_shots
from cadrage.compose.framed import stage_of
from cadrage.compose.moment import picture_time
from cadrage.compose.shots import PlannedShot, planned_shots, track_of
from cadrage.errors import BadRequest
from cadrage.footage import MediaInfo, effective_timing, resolve
from cadrage.geometry import Placement
from cadrage.motion import Motion, Stage, pose_of
from cadrage.motion.cast import Actor, View, cast_of
from cadrage.motion.chosen import chosen, counted
from cadrage.motion.follow import MOST_DOUBTS, MOST_PINS, Doubt, Follow, Pin, SubjectBox
from cadrage.motion.following import ShotToFollow, followed
from cadrage.motion.spline import Spline
from cadrage.plan import Plan, Shot

Drawn = Callable[[SubjectBox, int, int, View], Actor | None]
"""Follows the contents of a drawn box through some samples; see `compose.drawn`."""


@dataclass(frozen=True)
class Seen:
    """The analysis of a clip.

    Attributes:
        evidence: of it.
        starts: when its shots begin, as they were found.
        drawn: follows boxes that were drawn; they are taken for what was seen there where that is None.
    """

    evidence: Evidence
    starts: tuple[Fraction, ...]
    drawn: Drawn | None = field(default=None, compare=False)


def with_follow(plan: Plan, info: MediaInfo, seen: Seen, follow: Follow, number: int | None = None) -> Plan:
    """The plan whose window follows, with its way found.

    A picture that leaves nothing to move is let fill the frame. A clip that nobody has cut is cut where its shots were
    found.

    Args:
        plan: to change.
        info: what the clip is.
        seen: what was seen in it.
        follow: what to follow, and how.
        number: of the shot that follows by itself; None is the whole clip.

    Raises:
        BadRequest: there is no such shot.
    """
    if not plan.shots and len(seen.starts) > 1:
        plan = with_shots(plan, seen.starts)
    if number is None:
        spans = _spans(plan, info)
        return _following(plan, info, seen, follow, spans).model_copy(update={"shots": plan.shots})
    shot_of(plan, number)
    span = planned_shots(plan, info)[number]
    return in_shot(
        plan, info, number, lambda alone: _following(alone, info, seen, follow, (replace(span, plan=alone),))
    )


def solved(plan: Plan, info: MediaInfo, seen: Seen) -> Plan:
    """The plan with a path for every window that is to follow and has none yet."""
    if plan.motion.unsolved and plan.motion.follow is not None:
        plan = with_follow(plan, info, seen, plan.motion.follow)
    for number, shot in enumerate(plan.shots):
        if shot.motion is not None and shot.motion.unsolved and shot.motion.follow is not None:
            plan = with_follow(plan, info, seen, shot.motion.follow, number)
    return plan


def followed_alike(plan: Plan, other: Plan, info: MediaInfo, seen: Seen) -> Plan:
    """A plan of the same clip in another frame, whose window follows whom, and passes what, a plan's does."""
    if not other.shots:
        other = other.model_copy(update={"shots": tuple(Shot(start=shot.start) for shot in plan.shots)})
    if plan.motion.follow is not None:
        other = with_follow(other, info, seen, plan.motion.follow.asked)
    starts = {shot.start: number for number, shot in enumerate(other.shots)}
    for shot in plan.shots:
        if shot.motion is not None and shot.motion.follow is not None and shot.start in starts:
            other = with_follow(other, info, seen, shot.motion.follow.asked, starts[shot.start])
    return other


def unsolved(plan: Plan) -> bool:
    """Whether there is anything in a plan that is to follow and has no way yet."""
    return plan.motion.unsolved or any(shot.motion is not None and shot.motion.unsolved for shot in plan.shots)


def follows(plan: Plan) -> bool:
    """Whether the window follows anywhere in a plan."""
    return any(motion.follow is not None for motion in plan.of_each_shot("motion"))


def solved_anew(plan: Plan, info: MediaInfo, seen: Seen) -> Plan:
    """The plan with every path solved again, for example after a change of its size."""
    return solved(without_ways(plan), info, seen)


def without_ways(plan: Plan) -> Plan:
    """The plan without any way that was found."""
    return plan.map_shots(lambda one: {"motion": _asked(one.motion)})


def _asked(motion: Motion) -> Motion:
    return motion.model_copy(update={"follow": motion.follow and motion.follow.asked})


def _spans(plan: Plan, info: MediaInfo) -> tuple[PlannedShot, ...]:
    """The shots of a plan, without those with a custom movement; all of them if none is left."""
    planned = planned_shots(plan, info)
    own = {shot.start for shot in plan.shots if shot.motion is not None}
    return tuple(one for one in planned if one.start not in own) or planned


def _following(plan: Plan, info: MediaInfo, seen: Seen, follow: Follow, spans: tuple[PlannedShot, ...]) -> Plan:
    """A plan without shots, whose window follows through some spans of its clip."""
    placement = _roomy(plan, info)
    plan = plan.model_copy(update={"placement": placement, "shots": ()})
    ways: list[Spline] = []
    doubts: list[Doubt] = []
    for span in spans:
        own = span.plan.model_copy(update={"placement": _roomy(span.plan, info)})
        shot, stage, view = scene_of(own, info, seen, follow, span)
        found = followed(follow, shot, stage, view)
        ways.append(found.way)
        doubts += found.doubts
    worst = sorted(sorted(doubts, key=lambda one: one.sure)[:MOST_DOUBTS], key=lambda one: one.start)
    given = follow.model_copy(update={"path": tuple(ways), "doubts": tuple(worst)})
    motion = Motion(follow=given, inside=plan.motion.inside)
    return plan.model_copy(update={"motion": motion})


def _roomy(plan: Plan, info: MediaInfo) -> Placement:
    """A placement that leaves something to move: the plan's own, or one that fills the frame."""
    stage = stage_of(plan, resolve(info, plan.interpretation))
    pose = stage.pose
    if max(stage.slack(pose.scale, pose.angle)) > 0 or plan.placement.sizing == "stretch":
        return plan.placement
    still = {"sizing": "tightness", "tightness": Fraction(1), "offset_x": Fraction(0), "offset_y": Fraction(0)}
    return plan.placement.model_copy(update=still)


def scene_of(
    plan: Plan, info: MediaInfo, seen: Seen, follow: Follow, span: PlannedShot
) -> tuple[ShotToFollow, Stage, View]:
    """What a way is looked for in, what it leads over, and what the window shows of it."""
    reading = resolve(info, plan.interpretation)
    stage = stage_of(plan, reading)
    view = View.of(stage, reading.raster, stage.pose)
    picture = 1 / effective_timing(info, plan.interpretation).rate
    first, end = seen.evidence.samples(float(span.start), float(span.end))
    times = seen.evidence.times[first:end]
    everybody = cast_of(seen.evidence, first, end, view)
    asked = [one for one in follow.subjects if span.start <= one.time < span.end]
    actors = everybody
    if asked:
        shown = [(one, _one_of(one, seen, first, end, everybody, view)) for one in asked]
        actors = counted([(one, actor) for one, actor in shown if actor is not None], times)
    liveliest = _liveliest(seen.evidence, first, end, view)
    return ShotToFollow(span.start, span.end, picture, times, actors, liveliest, bool(asked)), stage, view


def _liveliest(evidence: Evidence, first: int, end: int, view: View) -> tuple[float, float]:
    """Where most moves in a shot, on average; the middle of the picture where nothing does."""
    places = [0.0, 0.0]
    for axis, fields in enumerate((evidence.across, evidence.down)):
        moving = fields[first:end].sum(axis=0, dtype=np.float64)
        if moving.sum() > 0:
            middles = (np.arange(len(moving)) + 0.5) / len(moving)
            whole = float((moving * middles).sum() / moving.sum())
            left, side = (view.left, view.width) if axis == 0 else (view.top, view.height)
            places[axis] = (whole - left) / side - 0.5
    return places[0], places[1]


def _one_of(subject: SubjectBox, seen: Seen, first: int, end: int, everybody: list[Actor], view: View) -> Actor | None:
    if subject.drawn and seen.drawn is not None:
        return seen.drawn(subject, first, end, view)
    return chosen(subject, everybody, seen.evidence.times[first:end], view)


def with_pin(
    plan: Plan, info: MediaInfo, seen: Seen, time: Fraction, placement: Placement, number: int | None = None
) -> Plan:
    """A plan that follows, whose window passes a placement at a time; a pin of that picture is replaced.

    Args:
        plan: to change.
        info: what the clip is.
        seen: what was seen in it.
        time: in seconds of the clip.
        placement: that is passed.
        number: of the shot that follows by itself; None is the whole clip.

    Raises:
        BadRequest: nothing follows there, or there are too many pins.
    """
    own = plan if number is None else plan.of_shot(shot_of(plan, number))
    follow, time = _follow_of(own), picture_time(plan, info, time)
    track = track_of(plan, info)
    alone = track.shots[track.shot_at(time)].plan
    pose = stage_of(alone, resolve(info, plan.interpretation)).with_base(placement).pose
    made = Pin(time=time, x=_in_picture(pose.x), y=_in_picture(pose.y))
    others = [pin for pin in follow.pins if pin.time != time]
    if len(others) >= MOST_PINS:
        raise BadRequest(f"There are {MOST_PINS} pins already.", remedy="Take some away first.")
    pins = tuple(sorted([*others, made], key=lambda pin: pin.time))
    return with_follow(plan, info, seen, follow.model_copy(update={"pins": pins}), number)


def shifted(plan: Plan, info: MediaInfo, time: Fraction, placement: Placement) -> Plan:
    """A plan without shots that follows, all of whose way, and pins, are moved as takes it to a placement at a time."""
    follow = _follow_of(plan)
    stage = stage_of(plan, resolve(info, plan.interpretation))
    now = pose_of(track_of(plan.model_copy(update={"shots": ()}), info).at(time))
    then = stage.with_base(placement).pose
    moves = {"x": then.x - now.x, "y": then.y - now.y}
    ways = tuple(
        way.model_copy(update={name: getattr(way, name).moved(by) for name, by in moves.items()}) for way in follow.path
    )
    pins = tuple(
        pin.model_copy(update={"x": _in_picture(pin.x + moves["x"]), "y": _in_picture(pin.y + moves["y"])})
        for pin in follow.pins
    )
    moved = follow.model_copy(update={"path": ways, "pins": pins})
    return plan.model_copy(update={"motion": plan.motion.model_copy(update={"follow": moved})})


def _follow_of(plan: Plan) -> Follow:
    if plan.motion.follow is None:
        raise BadRequest("The window does not follow here.", remedy="Choose Follow first.")
    return plan.motion.follow


def _in_picture(value: Fraction) -> Fraction:
    return min(max(value, Fraction(-1)), Fraction(1))
