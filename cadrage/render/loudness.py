"""How loud a file is: integrated loudness by ITU-R BS.1770 and EBU R 128, and its true peak, by FFmpeg's ebur128."""

from collections.abc import Iterable
from dataclasses import dataclass
from fractions import Fraction
from itertools import chain
from math import log10
from pathlib import Path

import av
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
    with opened(path) as container:
        source = next(one for one in sound_streams(container) if stream in (None, one.index))
        decoder = SoundDecoder(source)
        return loudness_of(
            piece.frame for packet in chain(Packets(container, (source,)), (None,)) for piece in decoder.heard(packet)
        )


def loudness_of(frames: Iterable[av.AudioFrame]) -> Loudness | None:
    """Measure sound whose form does not change; None where there is too little of it, or silence."""
    found: dict[str, str] = {}
    meter = None
    for frame in frames:
        meter = meter or _Meter(frame)
        found = meter.take(frame) or found
    found = (meter.take(None) if meter else {}) or found
    peak = float(found.get(PEAK, 0))
    integrated = float(found.get(LOUD, "-inf"))
    if peak <= 0 or integrated <= -70:  # EBU Tech 3341: the absolute gate, where nothing was loud enough to count
        return None
    return Loudness(integrated, 20 * log10(peak))


class _Meter:
    """FFmpeg's ebur128."""

    def __init__(self, first: av.AudioFrame) -> None:
        self._graph = Graph()
        self._position, self._tick = 0, Fraction(1, first.sample_rate)
        meter = self._graph.add("ebur128", "peak=true:metadata=1:framelog=quiet")
        entry = self._graph.add_abuffer(
            sample_rate=first.sample_rate, format=first.format.name, layout=first.layout.name, time_base=self._tick
        )
        sink = self._graph.add("abuffersink")
        entry.link_to(meter)
        meter.link_to(sink)
        self._graph.configure()

    def take(self, frame: av.AudioFrame | None) -> dict[str, str]:
        """What the last frame that comes out for a frame says; None drains it."""
        if frame is not None:
            frame.pts, frame.time_base = self._position, self._tick
            self._position += frame.samples
        self._graph.push(frame)
        found: dict[str, str] = {}
        while True:
            try:
                made = self._graph.pull()
            except (av.error.BlockingIOError, av.error.EOFError):
                return found
            assert isinstance(made, av.AudioFrame)
            found = dict(made.metadata) or found
