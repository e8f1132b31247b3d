"""Why a framing needs a look before it is delivered."""

from collections.abc import Sequence
from fractions import Fraction
from typing import Literal

from cadrage.analysis.burned_in_bars import BurnedInBars
from cadrage.compose.measure import Measure
from cadrage.compose.over_time import OverTime, Spell
from cadrage.footage import MediaInfo, effective_timing
from cadrage.formats import Delivery
from cadrage.geometry import Caution, CautionKind
from cadrage.motion.follow import Doubt
from cadrage.plan import Plan
from cadrage.values import Value, format_exact

Reason = Literal["missing", "doubtful", "lost", "enlarged", "shape", "fast", "empty", "bars", "rate", "long"]

REASONS: dict[Reason, str] = {
    "missing": "Uses a removed file",
    "doubtful": "Tracking to check",
    "lost": "More than a third cropped",
    "enlarged": "Scaled over 200%",
    "shape": "Wrong shape",
    "fast": "Moves fast",
    "empty": "Empty while it moves",
    "bars": "Bars to decide",
    "rate": "Frame rate converted",
    "long": "Too long",
}
"""Every reason, and its label in the board's filter."""

WRONG: frozenset[Reason] = frozenset({"missing", "empty", "long"})
"""Reasons, besides cautions, that mean that something is lost or wrong; the others are notes."""

OF_CAUTIONS: dict[CautionKind, Reason] = {"lost": "lost", "much_enlarged": "enlarged", "shape": "shape"}
"""The cautions that are reasons to look."""


class Concern(Value):
    """One reason to look.

    Attributes:
        reason: which.
        summary: in a few words, with its number.
        wrong: whether something is lost or wrong, and not only to be looked at.
    """

    reason: Reason
    summary: str
    wrong: bool


def _concern(reason: Reason, summary: str) -> Concern:
    return Concern(reason=reason, summary=summary, wrong=reason in WRONG)


def _of_caution(caution: Caution, summary: str) -> Concern:
    return Concern(reason=OF_CAUTIONS[caution.kind], summary=summary, wrong=caution.wrong)


def concerns(
    plan: Plan,
    info: MediaInfo,
    measure: Measure,
    over: OverTime | None,
    bars: BurnedInBars | None,
    delivery: Delivery,
    missing: Sequence[str] = (),
) -> list[Concern]:
    """All reasons to look at a framing.

    Args:
        plan: the framing.
        info: what the clip is.
        measure: the plan's numbers.
        over: the same over time, where it moves.
        bars: what was found in the picture; None where nobody has looked.
        delivery: what is asked of the frame.
        missing: names of what the plan uses and that was removed.
    """
    removed = [_concern("missing", f"uses {name}, which was removed") for name in missing]
    found = [*removed, *_of_doubts(plan), *(_of_placement(measure) if over is None else _of_movement(over))]
    if bars is not None and bars.kind in ("bars", "changing") and plan.interpretation.burned_in_bars is None:
        found.append(_concern("bars", "bars in the picture"))
    return found + _of_time(plan, info, delivery)


def _of_placement(measure: Measure) -> list[Concern]:
    return [_of_caution(one, one.brief) for one in measure.cautions if one.kind in OF_CAUTIONS]


def _of_movement(over: OverTime) -> list[Concern]:
    """Each at its worst, with the moment."""
    found = [_of_caution(one, f"{one.brief} at {_clock(one.time)}") for one in over.cautions if one.kind in OF_CAUTIONS]
    spells: tuple[tuple[Reason, tuple[Spell, ...]], ...] = (("fast", over.fast), ("empty", over.empty))
    for reason, each in spells:
        if each:
            found.append(_concern(reason, f"{REASONS[reason].lower()} from {_clock(each[0].start)}"))
    return found


def doubts_of(plan: Plan) -> list[Doubt]:
    """Stretches in which windows of a plan that follow may be wrong, in the order of time."""
    motions = [plan.motion, *plan.of_each_shot("motion")]
    follows = [motion.follow for motion in motions if motion.follow is not None]
    return sorted({doubt for follow in follows for doubt in follow.doubts}, key=lambda one: one.start)


def _of_doubts(plan: Plan) -> list[Concern]:
    """The worst of them, and how many there are."""
    found = doubts_of(plan)
    if not found:
        return []
    worst = min(found, key=lambda one: (one.sure, one.start))
    more = f", and {len(found) - 1} more" if len(found) > 1 else ""
    return [_concern("doubtful", f"{worst.summary} at {_clock(worst.start)}{more}")]


def _clock(time: Fraction) -> str:
    return f"{int(time) // 60}:{float(time) % 60:04.1f}"


def _of_time(plan: Plan, info: MediaInfo, delivery: Delivery) -> list[Concern]:
    taken, found = effective_timing(info, plan.interpretation), []
    wanted = plan.frame.rate
    if wanted is not None and info.kind == "clip" and (wanted != taken.rate or taken.rate_varies):
        found.append(_concern("rate", f"{_rate(taken.rate)} to {_rate(wanted)} fps"))
    length = plan.range.length(taken.duration)
    if delivery.longest is not None and length > delivery.longest:
        found.append(_concern("long", f"{float(length - delivery.longest):.1f} s too long"))
    return found


def _rate(rate: Fraction) -> str:
    text = format_exact(rate)
    return f"{float(rate):.3f}" if "/" in text else text
