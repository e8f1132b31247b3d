"""Bringing sound to a loudness: measured as it will be written, and what it must be multiplied with for that."""

from collections.abc import Callable, Iterator
from itertools import chain

import av
from av.audio.stream import AudioStream

from cadrage.footage.soundtrack import sound_streams
from cadrage.render.loudness import loudness_of
from cadrage.render.mixing import Mix
from cadrage.render.sound_line import SoundLine
from cadrage.render.sound_placing import AudioTrim
from cadrage.render.sound_reading import SoundReading

MEASURING_RATE = 48_000
TRIES = 6  # holding peaks makes sound quieter again, so that it is measured anew
NEAR_ENOUGH = 0.1  # LU
LOUDEST_GAIN = 40.0  # decibels; what is quieter than that is noise
LEAST_SLOPE = 0.25  # LU that a decibel more gives where peaks are held hard


def gain_for(
    target: float,
    index: int,
    read: Callable[[], SoundReading],
    mix: Callable[[AudioStream], Mix],
    trim: AudioTrim,
    *,
    steady: bool,
) -> float:
    """What a stream is multiplied with so that it is as loud as is wanted; 1 for silence.

    Args:
        target: LUFS.
        index: of the stream.
        read: opens the clip.
        mix: what becomes of a stream's channels.
        trim: the part that is delivered.
        steady: see `SoundPlacer`.
    """
    decibels, slope = 0.0, 1.0
    before: tuple[float, float] | None = None
    for _ in range(TRIES):
        found = loudness_of(line_through(index, read, mix, trim, 10 ** (decibels / 20), steady=steady))
        if found is None:
            return 1.0
        if before is not None and decibels != before[0]:
            slope = min(1.0, max(LEAST_SLOPE, (found.integrated - before[1]) / (decibels - before[0])))
        before = decibels, found.integrated
        if abs(target - found.integrated) <= NEAR_ENOUGH or decibels >= LOUDEST_GAIN:
            break
        decibels = min(decibels + (target - found.integrated) / slope, LOUDEST_GAIN)
    return float(10 ** (decibels / 20))


def line_through(
    index: int | None,
    read: Callable[[], SoundReading],
    mix: Callable[[AudioStream], Mix],
    trim: AudioTrim,
    gain: float = 1.0,
    *,
    steady: bool,
) -> Iterator[av.AudioFrame]:
    """The line of a stream of a clip, as it is written, in float; see `gain_for`."""
    with read() as packets:
        stream = next(one for one in sound_streams(packets.source) if index in (None, one.index))
        line = SoundLine(stream, MEASURING_RATE, "flt", mix(stream), trim, gain=gain, steady=steady)
        own = (packet for packet in packets if packet.stream_index == stream.index)
        yield from chain.from_iterable(line.take(packet) for packet in own)
        yield from line.finish()
