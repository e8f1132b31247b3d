"""Setting keys of a plan's placement, and turning a move into keys."""

from fractions import Fraction

from cadrage.compose.framed import stage_of
from cadrage.compose.moment import picture_time
from cadrage.compose.shots import planned_shots, track_of
from cadrage.errors import BadRequest
from cadrage.footage import MediaInfo, resolve
from cadrage.geometry import Placement
from cadrage.geometry.placement import MAX_ANGLE, MAX_TIGHTNESS
from cadrage.motion import Key, Motion, key_of, pose_of
from cadrage.motion.keys import FARTHEST, MOST_KEYS
from cadrage.motion.way_keys import keys_of_ways
from cadrage.plan import Plan


def with_move_as_keys(plan: Plan, info: MediaInfo) -> Plan:
    """The plan whose move, or whose way of a window that follows, is done by keys, over all that is delivered."""
    if plan.motion.follow is not None:
        keys = keys_of_ways(plan.motion.follow.path, stage_of(plan, resolve(info, plan.interpretation)))
        return plan.model_copy(update={"motion": Motion(keys=keys, inside=plan.motion.inside)})
    if plan.motion.move is None:
        return plan
    alone = plan.model_copy(update={"shots": ()})
    (shot,) = planned_shots(alone, info)
    stage = stage_of(alone, resolve(info, plan.interpretation))
    return plan.model_copy(update={"motion": plan.motion.as_keys(stage, shot.first, shot.last)})


def with_key(plan: Plan, info: MediaInfo, time: Fraction, placement: Placement | None = None) -> Plan:
    """The plan with a key at a time; one that is there at that time is replaced.

    Args:
        plan: whose placement is keyed; a move becomes keys.
        info: what the clip is.
        time: any within a picture, in seconds of the clip; the key is set where that picture begins.
        placement: that the key is to hold; as it is at that time unless given.

    Raises:
        BadRequest: there are too many.
    """
    time = picture_time(plan, info, time)
    plan = with_move_as_keys(plan, info)
    stage = stage_of(plan, resolve(info, plan.interpretation))
    if placement is None:
        placement = stage.placement(pose_of(track_of(plan.model_copy(update={"shots": ()}), info).at(time)))
    made = key_of(stage.with_base(placement), time)
    before = next((key for key in plan.motion.keys if key.time == time), None)
    if before is not None:
        made = made.model_copy(update={"ease": before.ease, "handles": before.handles})
    return plan.model_copy(update={"motion": _with(plan.motion, made)})


def with_shift(plan: Plan, info: MediaInfo, time: Fraction, placement: Placement) -> Plan:
    """The plan all of whose keys are moved, sized and turned by as much as takes it to a placement at a time.

    Args:
        plan: whose placement is keyed; a move becomes keys.
        info: what the clip is.
        time: in seconds of the clip.
        placement: that it is to have then.
    """
    plan = with_move_as_keys(plan, info)
    stage = stage_of(plan, resolve(info, plan.interpretation))
    now = pose_of(track_of(plan.model_copy(update={"shots": ()}), info).at(time))
    then = stage.with_base(placement).pose

    def shifted(key: Key) -> Key:
        changed: dict[str, Fraction] = {}
        if key.x is not None and key.y is not None:
            changed |= {"x": _within(key.x + then.x - now.x, FARTHEST), "y": _within(key.y + then.y - now.y, FARTHEST)}
        if key.tightness is not None:
            size = stage.tightness_at(stage.scale_at(key.tightness) * then.scale / now.scale)
            changed["tightness"] = min(size, Fraction(MAX_TIGHTNESS))
        if key.angle is not None:
            changed["angle"] = _within(key.angle + then.angle - now.angle, MAX_ANGLE)
        return key.model_copy(update=changed)

    keys = tuple(shifted(key) for key in plan.motion.keys)
    return plan.model_copy(update={"motion": plan.motion.model_copy(update={"keys": keys})})


def with_nearest(plan: Plan, info: MediaInfo, time: Fraction, placement: Placement) -> Plan:
    """The plan whose key nearest to a time holds a placement; a move becomes keys. The earlier of two equally near."""
    plan = with_move_as_keys(plan, info)
    nearest = min((key.time for key in plan.motion.keys), key=lambda at: abs(at - time), default=time)
    return with_key(plan, info, nearest, placement)


def _within(value: Fraction, most: int) -> Fraction:
    return min(max(value, Fraction(-most)), Fraction(most))


def _with(motion: Motion, key: Key) -> Motion:
    others = [one for one in motion.keys if one.time != key.time]
    if len(others) >= MOST_KEYS:
        raise BadRequest(f"There are {MOST_KEYS} keys already.", remedy="Take some away first.")
    keys = tuple(sorted([*others, key], key=lambda one: one.time))
    return motion.model_copy(update={"keys": keys})
