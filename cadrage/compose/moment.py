"""Which moment a composed frame stands for."""

from fractions import Fraction

from cadrage.footage import DecodedFrame


def moment_of(frame: DecodedFrame, time: Fraction | None = None) -> Fraction:
    """The time that what moves by itself follows.

    It is the shown picture's own, so that a preview anywhere in its duration is the frame that is rendered; of a still,
    which lasts, the time asked for.
    """
    lasts = frame.end - frame.time
    return frame.time if time is None or lasts < 1 else time
