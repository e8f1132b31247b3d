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

INTEGRATED = "lavfi.r128.I"
MOMENTARY, SHORT_TERM = "lavfi.r128.M", "lavfi.r128.S"
RANGE = "lavfi.r128.LRA"
TRUE_PEAK = "lavfi.r128.true_peak"
SILENT = -70.0  # LUFS, the absolute gate: EBU Tech 3341


@dataclass(frozen=True, slots=True)
class Loudness:
    """How loud sound is: EBU R 128 and EBU Tech 3341.

    Attributes:
        integrated: loudness of the programme, LUFS.
        true_peak: dBTP.
        momentary, short_term: the most of any 400 ms and of any 3 s, LUFS; of less than 3 s, `SILENT`.
        range: loudness range (EBU Tech 3342), LU.
    """

    integrated: float
    true_peak: float
    momentary: float
    short_term: float
    range: float

    def __str__(self) -> str:
        parts = [
            f"{self.integrated:.1f} LUFS",
            f"true peak {self.true_peak:.1f} dBTP",
            f"momentary {self.momentary:.1f}",
            *([f"short-term {self.short_term:.1f}"] if self.short_term > SILENT else []),
            f"range {self.range:.1f} LU",
        ]
        return ", ".join(parts)


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
    meter: _Meter | None = None
    for frame in frames:
        meter = meter or _Meter(frame)
        meter.take(frame)
    if meter is None:
        return None
    meter.take(None)
    return meter.loudness


class _Meter:
    """FFmpeg's ebur128."""

    def __init__(self, first: av.AudioFrame) -> None:
        self._graph = Graph()
        self._position, self._tick = 0, Fraction(1, first.sample_rate)
        self._last: dict[str, str] = {}
        self._highest = {MOMENTARY: SILENT, SHORT_TERM: SILENT}
        meter = self._graph.add("ebur128", "peak=true:metadata=1:framelog=quiet")
        entry = self._graph.add_abuffer(
            sample_rate=first.sample_rate, format=first.format.name, layout=first.layout.name, time_base=self._tick
        )
        sink = self._graph.add("abuffersink")
        entry.link_to(meter)
        meter.link_to(sink)
        self._graph.configure()

    @property
    def loudness(self) -> Loudness | None:
        """What was measured; None of silence, where nothing passes the absolute gate."""
        peak, integrated = float(self._last.get(TRUE_PEAK, 0)), float(self._last.get(INTEGRATED, "-inf"))
        if peak <= 0 or integrated <= SILENT:
            return None
        highest, spread = self._highest, float(self._last.get(RANGE, 0))
        return Loudness(integrated, 20 * log10(peak), highest[MOMENTARY], highest[SHORT_TERM], spread)

    def take(self, frame: av.AudioFrame | None) -> None:
        """Measure a frame; None drains the filter."""
        if frame is not None:
            frame.pts, frame.time_base = self._position, self._tick
            self._position += frame.samples
        self._graph.push(frame)
        while True:
            try:
                made = self._graph.pull()
            except (av.error.BlockingIOError, av.error.EOFError):
                return
            assert isinstance(made, av.AudioFrame)
            self._last = dict(made.metadata) or self._last
            for name, highest in self._highest.items():
                # A window that reaches back before the start is not measured yet, and comes as not a number.
                self._highest[name] = max(highest, float(self._last.get(name, SILENT)))
