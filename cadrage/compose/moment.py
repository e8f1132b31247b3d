"""Which moment a composed frame stands for."""

from fractions import Fraction
from math import floor

from cadrage.footage import DecodedFrame, MediaInfo, effective_timing
from cadrage.plan import Plan


def moment_of(info: MediaInfo, frame: DecodedFrame, time: Fraction) -> Fraction:
    """The time that what moves by itself follows.

    It is the shown picture's own, so that a preview anywhere in its duration is the frame that is rendered; of a still,
    which is one picture for all of its time, the time asked for.
    """
    return time if info.kind == "still" else frame.time


def picture_time(plan: Plan, info: MediaInfo, time: Fraction) -> Fraction:
    """When the picture begins that is seen at a time, in seconds of the clip; by its rate, as if that did not vary."""
    rate = effective_timing(info, plan.interpretation).rate
    return floor(time * rate) / rate
