"""Cut a clip into shots, and give a shot custom parts."""

from bisect import bisect_right
from collections.abc import Callable, Sequence
from fractions import Fraction
from typing import Any, Literal

from cadrage.compose.moment import picture_time
from cadrage.compose.shots import planned_shots
from cadrage.errors import BadRequest
from cadrage.footage import MediaInfo, effective_timing
from cadrage.plan import MOST_SHOTS, PARTS, Part, Plan, Shot

Times = Sequence[Fraction]
To = Literal["next", "all"]
BEGINNING = Fraction(0)


def with_shots(plan: Plan, starts: Times) -> Plan:
    """The plan cut where shots were found; a shot that begins where one began keeps what is its own."""
    there = {shot.start: shot for shot in plan.shots}
    return _cut(plan, [there.get(start) or Shot(start=start) for start in starts])


def split(plan: Plan, info: MediaInfo, time: Fraction, times: Times | None = None) -> Plan:
    """The plan with a cut before the picture that is seen at a time; both sides stay as the shot was.

    Args:
        plan: to cut.
        info: what the clip is.
        time: any within that picture, in seconds of the clip.
        times: of all its pictures, where they do not last equally long.

    Raises:
        BadRequest: that is the first picture of a shot, or there are too many.
    """
    start = picture_start(plan, info, time, times)
    shots = list(plan.shots) or [Shot(start=BEGINNING)]
    if any(shot.start == start for shot in shots):
        raise BadRequest("A shot begins here already.", remedy="Go to another picture.")
    if len(shots) >= MOST_SHOTS:
        raise BadRequest(f"There are {MOST_SHOTS} shots already.", remedy="Join some first.")
    after = bisect_right([shot.start for shot in shots], start)
    return _cut(plan, [*shots[:after], shots[after - 1].model_copy(update={"start": start}), *shots[after:]])


def split_at(plan: Plan, info: MediaInfo, times: Times) -> Plan:
    """The plan with cuts at some times, as far as there are none and they lie in the clip."""
    lasts = effective_timing(info, plan.interpretation).duration
    for time in times:
        start = picture_start(plan, info, time)
        if 0 < start < lasts and all(shot.start != start for shot in plan.shots):
            plan = split(plan, info, time)
    return plan


def joined(plan: Plan, number: int) -> Plan:
    """The plan whose shot `number` is one with the shot before it, whose own counts for both.

    Raises:
        BadRequest: there is none before it.
    """
    if not 0 < number < len(plan.shots):
        raise BadRequest("There is no shot before this one.", remedy="Choose a later shot.")
    return _cut(plan, [*plan.shots[:number], *plan.shots[number + 1 :]])


def moved_cut(plan: Plan, info: MediaInfo, number: int, time: Fraction, times: Times | None = None) -> Plan:
    """The plan whose shot `number` begins with the picture of another time, or as near to it as its neighbours allow.

    Raises:
        BadRequest: it is the first, or there is none.
    """
    if not 0 < number < len(plan.shots):
        raise BadRequest("The first shot begins with the clip.", remedy="Move a later cut.")
    planned = planned_shots(plan, info)
    step = 1 / effective_timing(info, plan.interpretation).rate
    time = min(max(time, planned[number - 1].start + step), planned[number].end - step)
    start = picture_start(plan, info, time, times)
    if not planned[number - 1].start < start < planned[number].end:
        return plan
    shots = list(plan.shots)
    shots[number] = shots[number].model_copy(update={"start": start})
    return _cut(plan, shots)


def as_whole(plan: Plan, number: int, part: Part) -> Plan:
    """The plan in whose shot a part is as in the whole clip."""
    return _with_own(plan, {number: {part: None}})


def copied(plan: Plan, number: int, to: To) -> Plan:
    """The plan in which the next shot, or every one, has the custom parts of a shot, and no others."""
    own: dict[str, Any] = {part: getattr(shot_of(plan, number), part) for part in PARTS}
    if own["motion"] is not None and own["motion"].keys:
        own["motion"] = None  # keys are at moments of this shot
    targets = [number + 1] if to == "next" else [other for other in range(len(plan.shots)) if other != number]
    return _with_own(plan, {target: own for target in targets if target < len(plan.shots)})


def in_shot(plan: Plan, info: MediaInfo, number: int | None, change: Callable[[Plan], Plan]) -> Plan:
    """The plan changed in one shot: what comes out otherwise there is that shot's own. None changes the whole clip.

    Args:
        plan: to change.
        info: what the clip is.
        number: of the shot.
        change: a plan without shots whose range is the shot's, as far as it is delivered.

    Raises:
        BadRequest: there is no such shot.
    """
    if number is None:
        return change(plan.model_copy(update={"shots": ()})).model_copy(update={"shots": plan.shots})
    shot_of(plan, number)
    planned = planned_shots(plan, info)[number]
    alone = planned.plan.model_copy(update={"range": planned.delivered(info)})
    changed = change(alone)
    own: dict[str, Any] = {
        part: getattr(changed, part) for part in PARTS if getattr(changed, part) != getattr(alone, part)
    }
    return _with_own(plan, {number: own})


def shot_of(plan: Plan, number: int) -> Shot:
    """A shot of a plan, by its number from 0.

    Raises:
        BadRequest: there is none.
    """
    if not 0 <= number < len(plan.shots):
        raise BadRequest("There is no such shot.", remedy="Look at the clip again.")
    return plan.shots[number]


def picture_start(plan: Plan, info: MediaInfo, time: Fraction, times: Times | None = None) -> Fraction:
    """When the picture begins that is seen at a time, in seconds of the clip."""
    if times:
        return times[max(0, bisect_right(times, time) - 1)]
    return picture_time(plan, info, max(time, BEGINNING))


def _with_own(plan: Plan, own: dict[int, dict[str, Any]]) -> Plan:
    """The plan whose shots have custom parts, by number and name."""
    shots = [shot.model_copy(update=own.get(number, {})) for number, shot in enumerate(plan.shots)]
    return plan.model_copy(update={"shots": tuple(shots)})


def _cut(plan: Plan, shots: list[Shot]) -> Plan:
    """The plan of such shots; of a single one, the plan without shots that is the same."""
    if len(shots) == 1:
        return plan.of_shot(shots[0])
    return plan.model_copy(update={"shots": tuple(shots)})
