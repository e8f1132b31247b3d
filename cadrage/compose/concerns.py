"""Why a framing needs a look before it is delivered."""

from fractions import Fraction
from typing import Literal

from cadrage.analysis.burned_in_bars import BurnedInBars
from cadrage.compose.measure import Measure
from cadrage.footage import MediaInfo, effective_timing
from cadrage.formats import Delivery
from cadrage.geometry import CautionKind
from cadrage.plan import Plan
from cadrage.values import Value, format_exact

Reason = Literal["lost", "enlarged", "shape", "bars", "rate", "long"]

REASONS: dict[Reason, str] = {
    "lost": "Over a third lost",
    "enlarged": "Enlarged over 1.5",
    "shape": "Shape wrong",
    "bars": "Bars not decided",
    "rate": "Rate is converted",
    "long": "Too long",
}
"""Every reason, and what it is called where it can be filtered by."""

OF_CAUTIONS: dict[CautionKind, Reason] = {"lost": "lost", "much_enlarged": "enlarged", "shape": "shape"}
"""The cautions that are reasons to look."""


class Concern(Value):
    """One reason to look.

    Attributes:
        reason: which.
        summary: in a few words, with its number.
    """

    reason: Reason
    summary: str


def concerns(
    plan: Plan, info: MediaInfo, measure: Measure, bars: BurnedInBars | None, delivery: Delivery
) -> list[Concern]:
    """All reasons to look at a framing.

    Args:
        plan: the framing.
        info: what the clip is.
        measure: the plan's numbers.
        bars: what was found in the picture; None where nobody has looked.
        delivery: what is asked of the frame.
    """
    found = [
        Concern(reason=OF_CAUTIONS[one.kind], summary=one.brief) for one in measure.cautions if one.kind in OF_CAUTIONS
    ]
    if bars is not None and bars.kind in ("bars", "changing") and plan.interpretation.burned_in_bars is None:
        found.append(Concern(reason="bars", summary="bars in the picture"))
    return found + _of_time(plan, info, delivery)


def _of_time(plan: Plan, info: MediaInfo, delivery: Delivery) -> list[Concern]:
    taken, found = effective_timing(info, plan.interpretation), []
    wanted = plan.frame.rate
    if wanted is not None and info.kind == "clip" and (wanted != taken.rate or taken.rate_varies):
        found.append(Concern(reason="rate", summary=f"{_rate(taken.rate)} to {_rate(wanted)} fps"))
    length = plan.range.length(taken.duration)
    if delivery.longest is not None and length > delivery.longest:
        found.append(Concern(reason="long", summary=f"{float(length - delivery.longest):.1f} s too long"))
    return found


def _rate(rate: Fraction) -> str:
    text = format_exact(rate)
    return f"{float(rate):.3f}" if "/" in text else text
