"""How loud a file is: integrated loudness by ITU-R BS.1770 and EBU R 128, and its true peak, by FFmpeg's ebur128."""

from dataclasses import dataclass
from itertools import chain
from math import log10
from pathlib import Path

import av
from av.audio.stream import AudioStream
from av.filter import Graph

from cadrage.footage.container import opened
from cadrage.footage.packets import Packets
from cadrage.footage.soundtrack import SoundDecoder, sound_streams

LOUD = "lavfi.r128.I"
PEAK = "lavfi.r128.true_peak"


@dataclass(frozen=True, slots=True)
class Loudness:
    """Integrated loudness in LUFS, and true peak in dBTP."""

    integrated: float
    true_peak: float

    def __str__(self) -> str:
        return f"{self.integrated:.1f} LUFS, true peak {self.true_peak:.1f} dBTP"


def loudness(path: Path, stream: int | None = None) -> Loudness | None:
    """Measure one stream of sound, in constant memory; None where there is too little of it, or silence.

    Args:
        path: the file.
        stream: its number among all streams of the file; the first that can be heard where None.

    Raises:
        MissingSource, UnreadableFile: the file cannot be read.
    """
    found: dict[str, str] = {}
    with opened(path) as container:
        source = next(one for one in sound_streams(container) if stream in (None, one.index))
        decoder, meter = SoundDecoder(source), _Meter(source)
        for packet in chain(Packets(container, (source,)), (None,)):
            for piece in decoder.heard(packet):
                found = meter.take(piece.frame) or found
        found = meter.take(None) or found
    peak = float(found.get(PEAK, 0))
    integrated = float(found.get(LOUD, "-inf"))
    if peak <= 0 or integrated <= -70:  # EBU Tech 3341: the absolute gate, where nothing was loud enough to count
        return None
    return Loudness(integrated, 20 * log10(peak))


class _Meter:
    """FFmpeg's ebur128, for sound whose form does not change."""

    def __init__(self, source: AudioStream) -> None:
        self._graph = Graph()
        meter = self._graph.add("ebur128", "peak=true:metadata=1:framelog=quiet")
        entry, sink = self._graph.add_abuffer(template=source), self._graph.add("abuffersink")
        entry.link_to(meter)
        meter.link_to(sink)
        self._graph.configure()

    def take(self, frame: av.AudioFrame | None) -> dict[str, str]:
        """What the last frame that comes out for a frame says; None drains it."""
        self._graph.push(frame)
        found: dict[str, str] = {}
        while True:
            try:
                made = self._graph.pull()
            except (av.error.BlockingIOError, av.error.EOFError):
                return found
            assert isinstance(made, av.AudioFrame)
            found = dict(made.metadata) or found
