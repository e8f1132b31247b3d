"""Which moment a composed frame stands for."""

from fractions import Fraction

from cadrage.footage import DecodedFrame, MediaInfo


def moment_of(info: MediaInfo, frame: DecodedFrame, time: Fraction) -> Fraction:
    """The time that what moves by itself follows.

    It is the shown picture's own, so that a preview anywhere in its duration is the frame that is rendered; of a still,
    which is one picture for all of its time, the time asked for.
    """
    return time if info.kind == "still" else frame.time
