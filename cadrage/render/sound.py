"""The sound of a clip, carried into the new file at the same distance from the picture."""

from __future__ import annotations  # Packet takes a parameter for the type checker only

from collections.abc import Iterable, Iterator
from contextlib import ExitStack
from dataclasses import replace
from fractions import Fraction
from types import TracebackType
from typing import Any, Self

from av.audio.stream import AudioStream
from av.container import InputContainer, OutputContainer
from av.packet import Packet

from cadrage.footage import SoundInfo, effective_timing
from cadrage.footage.soundtrack import sound_streams
from cadrage.render.levelling import LineSource, level_for
from cadrage.render.request import RenderRequest
from cadrage.render.sound_coding import CODINGS
from cadrage.render.sound_line import Level
from cadrage.render.sound_placing import AudioTrim
from cadrage.render.sound_reading import SoundReading
from cadrage.render.sound_tracks import Encoded, Kept, is_rough, mix_for
from cadrage.render.track_tags import tags_of
from cadrage.render.written_tracks import WrittenTrack

STEREO = 2
AHEAD = Fraction(1, 2)  # how far sound is written ahead of the picture, in seconds
KEEPING = ("mov", "matroska")  # containers whose packets have stamps that another takes over as they are
HOLDING = ("mp4", "mov")  # containers that say how much of a kept stream is not to be heard; for AAC, Matroska does not
LATE = Fraction(-1, 1000)  # earlier than this sound begins before the picture, and is cut


class SoundCarrier:
    """Feeds the sound of a clip into an output, step by step with the picture.

    Args:
        request: what is asked for.
        target: the file being written; one stream is added to it for every stream of sound that is wanted.
        picture_start: time stamp of the clip's first picture in seconds.
    """

    def __init__(self, request: RenderRequest, target: OutputContainer, picture_start: Fraction) -> None:
        self._stack = ExitStack()
        self._request, self._target, self._picture_start = request, target, picture_start
        self._tracks: dict[int, Kept | Encoded] = {}
        self._packets: Iterator[Packet[Any]] = iter(())
        self._written = Fraction(-1)
        own = effective_timing(request.info, request.plan.interpretation).duration
        self._trim = AudioTrim.of(request.timing, picture_start, own)
        self._whole = self._trim.whole_from(picture_start)
        if request.sounds:
            reading = self._stack.enter_context(self._reading())
            self._packets = reading
            for streams, wanted in _wanted(reading.source, request.tracks):
                track = self._track(streams, wanted)
                self._tracks |= dict.fromkeys((stream.index for stream in streams), track)
                track.stream.metadata.update(tags_of(wanted.info, request.encoder_config.kind.muxer))

    def _reading(self) -> SoundReading:
        return SoundReading(self._request, self._trim, self._picture_start)

    def __enter__(self) -> Self:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self._packets = iter(())
        self._stack.close()

    def carry_to(self, time: Fraction | None) -> None:
        """Write all sound up to shortly after a time of the file; None writes all that is left."""
        while time is None or self._written < time + AHEAD:
            packet = next(self._packets, None)
            if packet is None:
                self._finish()
                return
            if packet.pts is not None and packet.time_base:
                self._written = (packet.pts * packet.time_base - self._trim.start) / self._trim.speed
            if (track := self._tracks.get(packet.stream_index)) is not None:
                self._mux(track.take(packet))

    def _finish(self) -> None:
        self._packets = iter(())
        tracks, self._tracks = set(self._tracks.values()), {}
        for track in sorted(tracks, key=lambda one: -one.stream.index):
            self._mux(track.finish())

    def _mux(self, packets: Iterable[Packet[AudioStream]]) -> None:
        for packet in packets:
            self._target.mux(packet)

    def _track(self, streams: list[AudioStream], wanted: WrittenTrack) -> Kept | Encoded:
        request = self._request
        if self._whole and not wanted.is_joined and kept(request, wanted.info):
            return Kept(streams[0], self._target, self._trim.start)
        trim = self._trimmed(wanted.info)
        return Encoded(streams, self._target, trim, request, self._level(streams, trim))

    def _level(self, streams: list[AudioStream], trim: AudioTrim) -> Level:
        """The level at which a track is as loud as is wanted."""
        request, wanted = self._request, self._request.settings.loudness
        if wanted is None:
            return Level()
        numbers, coding = tuple(one.index for one in streams), CODINGS[request.encoder_config.sound_encoded]
        source = LineSource(
            numbers, self._reading, lambda found: mix_for(found, request), trim, steady=is_rough(request)
        )
        return level_for(wanted, source, coding, coding.rate_for(streams[0].rate))

    def _trimmed(self, info: SoundInfo) -> AudioTrim:
        """What is delivered, without what only fills a stream's last packet."""
        trim, source = self._trim, self._request.info
        if info.duration is None or source.counted == "estimated":
            return trim
        ends = self._picture_start + info.start + info.duration
        return replace(trim, end=ends if trim.end is None else min(ends, trim.end))


def whole_sound(request: RenderRequest) -> bool:
    """Whether all of a clip is delivered, at its own speed."""
    own = effective_timing(request.info, request.plan.interpretation).duration
    return AudioTrim.of(request.timing, Fraction(0), own).whole_from(Fraction(0))


def kept(request: RenderRequest, info: SoundInfo) -> bool:
    """Whether a stream can be carried over as it is, and then is in place as well."""
    settings, source = request.settings, request.info
    mixed = (settings.stereo and info.channels != STEREO) or settings.picked_channels or settings.loudness is not None
    damaged = any(one.kind in ("sound_damaged", "unreadable", "cut_short", "clock_jumps") for one in source.findings)
    holds = request.encoder_config.sound == "keep" and request.encoder_config.kind.muxer in HOLDING
    fits = holds and info.codec == "aac" and not mixed
    return fits and source.demuxer in KEEPING and info.start >= LATE and not damaged


def _wanted(source: InputContainer, tracks: Iterable[WrittenTrack]) -> Iterator[tuple[list[AudioStream], WrittenTrack]]:
    """The tracks whose streams are all there, each with its streams."""
    streams = sound_streams(source)
    by_number = {stream.index: stream for stream in streams}
    for number, track in enumerate(tracks):
        found = [by_number[one.stream] for one in track.members if one.stream in by_number]
        if not found and track.info.stream is None and number < len(streams):  # stored by an older version
            found = [streams[number]]
        if len(found) == len(track.members):
            yield found, track
