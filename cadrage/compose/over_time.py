"""What a placement that moves takes and gives over time, with the moment of each."""

from collections.abc import Callable, Iterator
from fractions import Fraction
from itertools import pairwise
from typing import Literal

from cadrage.compose.shots import track_of
from cadrage.footage import MediaInfo
from cadrage.geometry import Caution, CautionKind, Cost, Placed, cautions, cost_of
from cadrage.motion import MovingTrack
from cadrage.motion.track import moments
from cadrage.plan import Plan
from cadrage.values import Exact, Value

BETWEEN = 12
"""Moments that are looked at between two keys."""
MOST_MOMENTS = 1000
FAST = Fraction(1, 3)
"""Of the window's width or height in a second: what moves faster is hard to follow (common practice, no source)."""


class Extreme(Value):
    """The least or the most of something, and when that is, in seconds of the clip."""

    value: Exact
    time: Exact


class Spell(Value):
    """From one moment to another, in seconds of the clip, something is so."""

    start: Exact
    end: Exact


class TimedCaution(Caution):
    """One thing to know about a placement that moves, and when it is so most, in seconds of the clip."""

    time: Exact


class OverTime(Value):
    """What moves, over all that is delivered.

    Attributes:
        kept_least, kept_most: percent of the picture that is kept.
        covered_least, covered_most: percent of the frame that the picture covers.
        enlarged_least, enlarged_most: how much it is enlarged.
        empty: where something beside the picture shows though it would fill the frame at that size.
        fast: where the window crosses more than a third of itself in a second.
        cautions: what to know about it, each at its worst.
        held: keys that look where something beside the picture would show, and are held inside it.
    """

    kept_least: Extreme
    kept_most: Extreme
    covered_least: Extreme
    covered_most: Extreme
    enlarged_least: Extreme
    enlarged_most: Extreme
    empty: tuple[Spell, ...]
    fast: tuple[Spell, ...]
    cautions: tuple[TimedCaution, ...]
    held: tuple[Exact, ...]


Seen = tuple[Fraction, Placed, Cost]


def over_time(plan: Plan, info: MediaInfo) -> OverTime | None:
    """What a plan takes and gives over time; None where nothing of it ever changes."""
    whole = track_of(plan, info)
    shots = whole.shots
    if len(shots) == 1 and whole.constant:
        return None
    between = max(1, min(BETWEEN, MOST_MOMENTS // whole.gaps))
    seen: list[Seen] = []
    costs: dict[int, tuple[Placed, Cost]] = {}  # of tracks that several shots share
    empty: list[Spell] = []
    fast: list[Spell] = []
    held: list[Fraction] = []
    for number, shot in enumerate(shots):
        track = whole.track(number)
        if not isinstance(track, MovingTrack):
            if id(track) not in costs:
                placed = track.at(shot.first)
                costs[id(track)] = placed, cost_of(placed)
            seen.append((shot.first, *costs[id(track)]))
            continue
        times = moments((shot.first, shot.last), track.times, between)
        own = [(time, track.at(time)) for time in times]
        seen += [(time, placed, cost_of(placed)) for time, placed in own]
        held += [key.time for key in shot.plan.motion.keys if track.holds(key.time)]
        empty += _spells(times, [track.empty_at(time) for time in times])
        fast += _spells(times, [*(_is_fast(one, other) for one, other in pairwise(own)), False])
    told = {"empty": tuple(empty), "fast": tuple(fast), "cautions": tuple(_worst(seen)), "held": tuple(held)}
    return OverTime(**dict(_extremes(seen)), **told)


WORST: tuple[tuple[tuple[CautionKind, ...], Callable[[Cost], Fraction]], ...] = (
    (("much_enlarged", "enlarged"), lambda cost: -cost.enlargement),
    (("lost",), lambda cost: cost.kept_percent),
    (("small",), lambda cost: cost.covered_percent),
    (("shape",), lambda cost: -abs(cost.shape - 1)),
)
"""Kinds of cautions, and what is least where each is at its worst."""


def _worst(seen: list[Seen]) -> Iterator[TimedCaution]:
    for kinds, measured in WORST:
        time, _, cost = min(seen, key=lambda one: (measured(one[2]), one[0]))
        for one in cautions(cost):
            if one.kind in kinds:
                yield TimedCaution(**one.model_dump(), time=time)


def movement_summary(plan: Plan) -> str:
    """How a placement varies, shot by shot, in few words."""
    if not plan.shots:
        return plan.motion.summary
    if plan.motion.follow is not None:
        return f"{len(plan.shots)} shots, {plan.motion.summary}"
    moving = sum(not (shot.motion or plan.motion).still for shot in plan.shots)
    return f"{len(plan.shots)} shots, {moving} moving" if moving else f"{len(plan.shots)} shots"


def _extremes(seen: list[Seen]) -> Iterator[tuple[str, Extreme]]:
    for name, field in (("kept", "kept_percent"), ("covered", "covered_percent"), ("enlarged", "enlargement")):
        values = [(getattr(cost, field), time) for time, _, cost in seen]
        ends: tuple[tuple[Literal["least", "most"], tuple[Fraction, Fraction]], ...] = (
            ("least", min(values, key=lambda pair: (pair[0], pair[1]))),
            ("most", max(values, key=lambda pair: (pair[0], -pair[1]))),
        )
        for end, (value, time) in ends:
            yield f"{name}_{end}", Extreme(value=value, time=time)


def _is_fast(before: tuple[Fraction, Placed], after: tuple[Fraction, Placed]) -> bool:
    """Whether a window moves by more than a third of itself in a second, between two moments near one another."""
    (start, one), (end, other) = before, after
    if end == start:
        return False
    rect, area = one.rect, one.opening.rect
    across = (other.rect.x + other.rect.width / 2 - rect.x - rect.width / 2) / area.width
    down = (other.rect.y + other.rect.height / 2 - rect.y - rect.height / 2) / area.height
    return max(abs(across), abs(down)) > FAST * (end - start)


def _spells(times: list[Fraction], so: list[bool]) -> Iterator[Spell]:
    """Where something is so, from moment to moment."""
    start: Fraction | None = None
    for time, now in zip(times, so, strict=True):
        if now and start is None:
            start = time
        if not now and start is not None:
            yield Spell(start=start, end=time)
            start = None
    if start is not None:
        yield Spell(start=start, end=times[-1])
