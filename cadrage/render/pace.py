"""Pictures at the rate that is delivered: the clip's own, or the frame's by repeating and dropping whole pictures.

Nothing is ever blended: each delivered frame is the picture that is on screen at its moment.
"""

from collections.abc import Iterator
from dataclasses import replace
from fractions import Fraction
from math import ceil

from cadrage.footage import DecodedFrame, Facts, taken_as
from cadrage.plan import Plan


def delivered(plan: Plan, facts: Facts) -> Facts:
    """The clip as it is delivered: rate, number of frames and duration after interpretation and at the frame's rate."""
    taken = taken_as(facts, plan.interpretation)
    rate = plan.frame.rate
    if rate is None or (rate == taken.rate and not taken.rate_varies):
        return taken
    length = 1 / rate
    timing = {"rate": rate, "rate_varies": False, "frames": ceil(taken.duration * rate)}
    return taken.model_copy(update=timing | {"shortest_frame": length, "longest_frame": length})


def paced(pictures: Iterator[DecodedFrame], plan: Plan, facts: Facts) -> Iterator[DecodedFrame]:
    """The pictures to deliver, in order; as they come where the clip keeps its own rate."""
    wanted = delivered(plan, facts)
    if wanted == taken_as(facts, plan.interpretation):
        return pictures
    return _held(pictures, wanted.rate, wanted.frames)


def _held(pictures: Iterator[DecodedFrame], rate: Fraction, frames: int) -> Iterator[DecodedFrame]:
    shown = next(pictures)
    coming = next(pictures, None)
    for number in range(frames):
        time = number / rate
        while coming is not None and coming.time <= time:
            shown, coming = coming, next(pictures, None)
        yield replace(shown, time=time, end=time + 1 / rate)
