"""How much a file really holds, by its packets."""

from collections import Counter
from dataclasses import dataclass
from pathlib import Path

from cadrage.footage import Facts
from cadrage.footage.container import opened, picture_stream


@dataclass(frozen=True, slots=True)
class Amount:
    """Bit rates of a picture in kilobits a second: the mean, and of its fullest second."""

    mean: float
    highest: float


def amount_of(path: Path, facts: Facts) -> Amount:
    """Count the packets of a file's picture.

    Raises:
        MissingSource, UnreadableFile: the file cannot be read.
    """
    seconds: Counter[int] = Counter()
    with opened(path) as container:
        stream = picture_stream(container, path)
        for packet in container.demux(stream):
            time = packet.pts if packet.pts is not None else packet.dts
            if packet.size and time is not None and stream.time_base:
                seconds[int(time * stream.time_base)] += packet.size
    whole = sum(seconds.values())
    return Amount(8 * whole / float(facts.duration) / 1000, 8 * max(seconds.values(), default=0) / 1000)
