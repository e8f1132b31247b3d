"""The sound of what is played: one unbroken line of samples, round and round with the picture."""

from __future__ import annotations  # Packet takes a parameter for the type checker only

from collections.abc import Iterator
from dataclasses import replace
from fractions import Fraction
from typing import Any

import av
from av.audio.stream import AudioStream
from av.packet import Packet

from cadrage.footage import effective_timing
from cadrage.footage.soundtrack import sound_streams
from cadrage.playing.request import Pass, PlayRequest
from cadrage.render.mixing import Mix
from cadrage.render.request import RenderRequest
from cadrage.render.sound_line import SoundLine
from cadrage.render.sound_placing import AudioTrim
from cadrage.render.sound_reading import SoundReading
from cadrage.render.sound_tracks import is_rough, mix_for
from cadrage.render.speed import Speed

RATE = 48_000
SAMPLES = "s16"  # what FLAC takes, channels interleaved
STEREO = "stereo"
FASTEST_HEARD = 2


def track_number(request: PlayRequest) -> int | None:
    """Which of the clip's tracks of sound is heard, from 0: the first that is delivered; None where there is none, and
    where it runs too fast to be understood.
    """
    if request.speed > FASTEST_HEARD:
        return None
    picked = [number - 1 for number in request.settings.picked_tracks if number <= len(request.info.sounds)]
    return min(picked, default=0) if request.info.sounds else None


def heard(request: PlayRequest, track: int, picture_start: Fraction) -> Iterator[av.AudioFrame]:
    """Sound from the moment on, without an end; 16 bits, one channel or two interleaved, 48,000 samples a second.

    Args:
        request: what is played.
        track: which of the tracks of sound.
        picture_start: time stamp of the clip's first picture in seconds.
    """
    begun = Fraction(0)
    for part in request.passes():
        ends = begun + part.timing.info.duration
        yield from _exactly(_pass(part, track, picture_start), round(ends * RATE) - round(begun * RATE))
        begun = ends


def _exactly(frames: Iterator[av.AudioFrame], samples: int) -> Iterator[av.AudioFrame]:
    """Sound cut, or drawn out with silence, to so many samples."""
    layout = STEREO
    for frame in frames:
        layout = frame.layout.name
        if frame.samples > samples:
            if samples:
                yield _framed(frame.to_ndarray()[:, : samples * frame.layout.nb_channels].copy(), layout)
            return
        samples -= frame.samples
        yield frame
    while samples:
        part = min(samples, RATE // 10)
        yield _silence(part, layout)
        samples -= part


def _silence(samples: int, layout: str) -> av.AudioFrame:
    frame = av.AudioFrame(SAMPLES, layout, samples)
    frame.planes[0].update(bytes(frame.planes[0].buffer_size))
    frame.sample_rate = RATE
    return frame


def _framed(samples: Any, layout: str) -> av.AudioFrame:  # noqa: ANN401 - an array of whatever the frame holds
    frame = av.AudioFrame.from_ndarray(samples, SAMPLES, layout)
    frame.sample_rate = RATE
    return frame


def _pass(played: Pass, track: int, picture_start: Fraction) -> Iterator[av.AudioFrame]:
    """The sound of one pass."""
    part = played.request
    own = effective_timing(part.info, part.plan.interpretation).duration
    trim = AudioTrim.of(played.timing, picture_start, own)
    with SoundReading(part, trim, picture_start) as reading:
        stream = sound_streams(reading.source)[track]
        mix = _mix(stream, part)
        line = SoundLine(stream, RATE, SAMPLES, mix, trim, steady=is_rough(part))
        as_played = _AsPlayed(line.sample_format, mix.layout, trim.speed)
        for packet in _of(reading, stream):
            for frame in line.take(packet):
                yield from as_played.take(frame)
        for frame in line.finish():
            yield from as_played.take(frame)
        yield from as_played.take(None)


def _mix(stream: AudioStream, part: RenderRequest) -> Mix:
    """What is delivered of the channels; mixed to two where that is more."""
    mix = mix_for(stream, part)
    if av.AudioLayout(mix.layout).nb_channels <= av.AudioLayout(STEREO).nb_channels:
        return mix
    stereo = part.settings.model_copy(update={"stereo": True})
    return mix_for(stream, replace(part, settings=stereo))


def _of(packets: Iterator[Packet[Any]], stream: AudioStream) -> Iterator[Packet[AudioStream]]:
    return (packet for packet in packets if packet.stream_index == stream.index)


class _AsPlayed:
    """Brings sound to 16 bits, and to the speed at which the pictures run."""

    def __init__(self, sample_format: str, layout: str, speed: Fraction) -> None:
        self._speed = Speed(RATE, layout, sample_format, speed) if speed != 1 else None
        self._resampler = av.AudioResampler(SAMPLES, layout, RATE)

    def take(self, frame: av.AudioFrame | None) -> Iterator[av.AudioFrame]:
        """What comes out for a frame; None drains it."""
        for changed in self._speed.change(frame) if self._speed else (frame,):
            if changed is not None:
                changed.pts = None
                yield from self._resampler.resample(changed)
