"""Bringing sound to a loudness: measured as a player will hear it, behind the codec that it is written with."""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from itertools import chain

import av
from av.audio.stream import AudioStream

from cadrage.footage.soundtrack import sound_streams
from cadrage.render.loudness import Loudness, loudness_of
from cadrage.render.mixing import Mix
from cadrage.render.peaks import PEAK_DECIBELS
from cadrage.render.sound_coding import Coding, through_codec
from cadrage.render.sound_line import Level, SoundLine
from cadrage.render.sound_placing import AudioTrim
from cadrage.render.sound_reading import SoundReading

MEASURING_RATE = 48_000
MAX_MEASUREMENTS = 6  # limiting peaks makes sound quieter again, so that it is measured again
MAX_CODED_MEASUREMENTS = 8  # ordinary sound needs two; noise in bursts, whose peaks AAC raises by 2.5 dB, six
LOUDNESS_TOLERANCE = 0.1  # LU
MAX_GAIN = 40.0  # decibels; what is quieter than that is noise
MIN_SLOPE = 0.25  # LU that a decibel more gives where peaks are limited hard
PEAK_WEIGHT = 10.0
PEAK_MARGIN = 0.05  # decibels further down than a codec's overshoot asks for, so that the next measurement passes


@dataclass(frozen=True)
class LineSource:
    """Where the line of a track comes from, as often as it is read.

    Attributes:
        streams: numbers of its streams among all streams of the file; None is the first that can be decoded.
        read: opens the clip.
        mix: what becomes of the channels of its streams.
        trim: the part that is delivered.
        steady: see `SoundPlacer`.
    """

    streams: tuple[int, ...] | None
    read: Callable[[], SoundReading]
    mix: Callable[[Sequence[AudioStream]], Mix]
    trim: AudioTrim
    steady: bool

    def frames(self, level: Level | None = None, rate: int = MEASURING_RATE) -> Iterator[av.AudioFrame]:
        """The line as it is written, in float, at a level."""
        with self.read() as packets:
            found = sound_streams(packets.source)
            by_number = {one.index: one for one in found}
            streams = found[:1] if self.streams is None else [by_number[number] for number in self.streams]
            line = SoundLine(streams, rate, "flt", self.mix(streams), self.trim, level=level, steady=self.steady)
            yield from chain.from_iterable(map(line.take, packets))
            yield from line.finish()


def level_for(target: float, source: LineSource, coding: Coding, rate: int) -> Level:
    """Return the level at which a track is as loud as is wanted once it is decoded again; `Level()` for silence.

    Codecs take away what they consider inaudible (up to 0.8 LU of noise was measured) and overshoot peaks. The gain is
    therefore found on the line itself first, and then corrected by what comes back from the codec.

    Args:
        target: LUFS.
        source: the track.
        coding: how it will be written.
        rate: samples a second that it will be written with.
    """
    level = _search(target, Level(), lambda one: loudness_of(source.frames(one)), MAX_MEASUREMENTS)
    if level == Level() or not coding.is_lossy:
        return level

    def measure(one: Level) -> Loudness | None:
        return loudness_of(through_codec(source.frames(one, rate), coding, rate))

    return _search(target, level, measure, MAX_CODED_MEASUREMENTS)


def _search(target: float, level: Level, measure: Callable[[Level], Loudness | None], tries: int) -> Level:
    """Change a level until what is measured at it is as loud as is wanted and its true peak is held."""
    slope, before = 1.0, None
    best: tuple[float, Level] | None = None
    for _ in range(tries):
        found = measure(level)
        if found is None:
            return Level()
        decibels, error = level.decibels, target - found.integrated
        if before is not None and level.ceiling == before[0].ceiling and level != before[0]:
            gained = (found.integrated - before[1]) / (decibels - before[0].decibels)
            slope = min(1.0, max(MIN_SLOPE, gained))
        before = level, found.integrated
        overshoot = max(0.0, found.true_peak - PEAK_DECIBELS)
        # A peak that is not held weighs more than any loudness that is missed.
        worth = abs(error) + PEAK_WEIGHT * overshoot
        best = (worth, level) if best is None or worth < best[0] else best
        near = abs(error) <= LOUDNESS_TOLERANCE or decibels >= MAX_GAIN
        if near and not overshoot:
            break
        wanted = decibels if near else min(decibels + error / slope, MAX_GAIN)
        ceiling = level.ceiling - (overshoot + PEAK_MARGIN if overshoot else 0)
        level = Level(gain=10 ** (wanted / 20), ceiling=ceiling)
    return Level() if best is None else best[1]
