"""Two passes: a clip is measured at constant quality first, then each part is given its share of the rate."""

import os
from collections.abc import Sequence
from contextlib import closing
from pathlib import Path

import av

from cadrage.render.drawing import Drawing
from cadrage.render.encoder import Share
from cadrage.render.frame_timing import Segment
from cadrage.render.progress import Meter

PLENTY = 3.0
LEAST_SHARE = 0.02  # of the mean rate, so that even a black part can begin with a whole picture


def measured(drawing: Drawing, cut: Segment, stats: Path, meter: Meter) -> int:
    """Encode a cut at constant quality, keep only the encoder's statistics, and return the bits it took."""
    bits = 0
    with av.open(os.devnull, "w", format="null") as container:
        stream = drawing.track(container, Share(1, stats))
        with closing(drawing.encoded(stream, cut)) as coded:
            for one in coded:
                bits += 8 * sum(packet.size for packet in one.packets)
                if one.time is not None:
                    meter.count()
    return bits


def rate_exceeds_need(rate: int, bits: int, seconds: float) -> bool:
    """Whether a rate is far more than pictures took at high quality. A second pass would then go beyond it, since what
    the encoder foretells of so fine a quantiser is too little (tried out); one pass stays below.
    """
    return rate * seconds > PLENTY * bits


def allocate_bitrate(rate: int, ceiling: int, bits: Sequence[int], seconds: Sequence[float]) -> list[int]:
    """Rates of the parts of a clip, in bits a second, whose mean is the rate that was asked for.

    What a part took at constant quality is its share, as far as the ceiling allows; what is over goes to the others.

    Args:
        rate: mean, in bits a second.
        ceiling: highest of a part, in the same; 0 for none.
        bits: that each part took at constant quality.
        seconds: that each part lasts, more than 0.
    """
    least, most = rate * LEAST_SHARE, max(ceiling, rate) if ceiling else float("inf")
    wanted = [max(1.0, took / lasts) for took, lasts in zip(bits, seconds, strict=True)]

    def given(scale: float) -> list[float]:
        return [min(max(one * scale, least), most) for one in wanted]

    def spent(scale: float) -> float:
        return sum(one * lasts for one, lasts in zip(given(scale), seconds, strict=True))

    low, high = 0.0, rate / min(wanted)
    for _ in range(60):
        middle = (low + high) / 2
        low, high = (middle, high) if spent(middle) < rate * sum(seconds) else (low, middle)
    return [round(one) for one in given(high)]
