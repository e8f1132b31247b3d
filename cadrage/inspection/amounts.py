"""How much a file really holds, by its packets."""

from collections import Counter
from dataclasses import dataclass
from pathlib import Path

from cadrage.footage import MediaInfo
from cadrage.footage.container import opened, picture_stream


@dataclass(frozen=True, slots=True)
class Amount:
    """Bit rates of a picture in kilobits a second: the mean, of its fullest and of its emptiest whole second."""

    mean: float
    highest: float
    lowest: float


def amount_of(path: Path, info: MediaInfo) -> Amount:
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
    full = [seconds[second] for second in range(int(info.duration))] or list(seconds.values())
    highest, lowest = max(seconds.values(), default=0), min(full, default=0)
    return Amount(8 * whole / float(info.duration) / 1000, 8 * highest / 1000, 8 * lowest / 1000)
