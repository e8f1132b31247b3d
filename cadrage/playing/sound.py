"""The sound of what is played: one unbroken line of samples, round and round with the picture."""

from __future__ import annotations  # Packet takes a parameter for the type checker only

from collections.abc import Iterator, Sequence
from dataclasses import replace
from fractions import Fraction
from typing import Any

import av
from av.audio.stream import AudioStream
from av.container import InputContainer

from cadrage.footage import MediaInfo, effective_timing
from cadrage.footage.soundtrack import sound_streams
from cadrage.playing.request import Pass, PlayRequest
from cadrage.render.mixing import Mix
from cadrage.render.request import RenderRequest
from cadrage.render.sound_line import SoundLine
from cadrage.render.sound_placing import AudioTrim
from cadrage.render.sound_reading import SoundReading
from cadrage.render.sound_tracks import is_rough, mix_for
from cadrage.render.speed import Speed
from cadrage.render.written_tracks import WrittenTrack, written_tracks

RATE = 48_000
SAMPLES = "s16"  # what FLAC takes, channels interleaved
STEREO = "stereo"
FASTEST_HEARD = 2


def played_track(request: PlayRequest) -> WrittenTrack | None:
    """The track of sound that is heard: the first that is delivered, else the clip's first.

    None where the clip has none, and where it runs too fast to be understood.
    """
    if request.speed > FASTEST_HEARD or not request.info.sounds:
        return None
    tracks = written_tracks(request.info.sounds, request.settings.track_groups)
    return tracks[0] if tracks else WrittenTrack(request.info.sounds[:1])


def heard(request: PlayRequest, track: WrittenTrack, picture_start: Fraction) -> Iterator[av.AudioFrame]:
    """Sound from the moment on, without an end; 16 bits, one channel or two interleaved, 48,000 samples a second.

    Args:
        request: what is played.
        track: which of the tracks of sound, as it would be written.
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


def _pass(played: Pass, track: WrittenTrack, picture_start: Fraction) -> Iterator[av.AudioFrame]:
    """The sound of one pass."""
    part = played.request
    own = effective_timing(part.info, part.plan.interpretation).duration
    trim = AudioTrim.of(played.timing, picture_start, own)
    with SoundReading(part, trim, picture_start) as reading:
        streams = _streams(reading.source, part.info, track)
        mix = _mix(streams, part)
        line = SoundLine(streams, RATE, SAMPLES, mix, trim, steady=is_rough(part))
        as_played = _AsPlayed(line.sample_format, mix.layout, trim.speed)
        for packet in reading:
            for frame in line.take(packet):
                yield from as_played.take(frame)
        for frame in line.finish():
            yield from as_played.take(frame)
        yield from as_played.take(None)


def _streams(source: InputContainer, info: MediaInfo, track: WrittenTrack) -> list[AudioStream]:
    """The streams of a track, by their place among all tracks."""
    streams = sound_streams(source)
    return [streams[info.sounds.index(member)] for member in track.members]


def _mix(streams: Sequence[AudioStream], part: RenderRequest) -> Mix:
    """What is delivered of the channels; mixed to two where that is more."""
    mix = mix_for(streams, part)
    if av.AudioLayout(mix.layout).nb_channels <= av.AudioLayout(STEREO).nb_channels:
        return mix
    stereo = part.settings.model_copy(update={"stereo": True})
    return mix_for(streams, replace(part, settings=stereo))


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
