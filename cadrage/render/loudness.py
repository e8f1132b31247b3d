"""How loud a file is: integrated loudness by ITU-R BS.1770 and EBU R 128, and its true peak, by FFmpeg's ebur128."""

from dataclasses import dataclass
from math import log10
from pathlib import Path

import av
from av.filter import Graph

from cadrage.footage.container import opened

LOUD = "lavfi.r128.I"
PEAK = "lavfi.r128.true_peak"


@dataclass(frozen=True, slots=True)
class Loudness:
    """Integrated loudness in LUFS, and true peak in dBTP."""

    integrated: float
    true_peak: float

    def __str__(self) -> str:
        return f"{self.integrated:.1f} LUFS, true peak {self.true_peak:.1f} dBTP"


def loudness(path: Path, stream: int = 0) -> Loudness | None:
    """Measure one stream of sound, in constant memory; None where there is too little of it, or silence.

    Raises:
        MissingSource, UnreadableFile: the file cannot be read.
    """
    found: dict[str, str] = {}
    with opened(path) as container:
        source = container.streams.audio[stream]
        graph = Graph()
        meter = graph.add("ebur128", "peak=true:metadata=1:framelog=quiet")
        entry, sink = graph.add_abuffer(template=source), graph.add("abuffersink")
        entry.link_to(meter)
        meter.link_to(sink)
        graph.configure()
        for frame in container.decode(source):
            graph.push(frame)
            found = _pulled(graph) or found
        graph.push(None)
        found = _pulled(graph) or found
    peak = float(found.get(PEAK, 0))
    integrated = float(found.get(LOUD, "-inf"))
    if peak <= 0 or integrated <= -70:  # EBU Tech 3341: the absolute gate, where nothing was loud enough to count
        return None
    return Loudness(integrated, 20 * log10(peak))


def _pulled(graph: Graph) -> dict[str, str]:
    """What the last frame that comes out says."""
    found: dict[str, str] = {}
    while True:
        try:
            frame = graph.pull()
        except (av.error.BlockingIOError, av.error.EOFError):
            return found
        assert isinstance(frame, av.AudioFrame)
        found = dict(frame.metadata) or found
