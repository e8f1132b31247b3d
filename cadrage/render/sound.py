"""The sound of a clip, carried into the new file at the same distance from the picture."""

from __future__ import annotations  # Packet takes a parameter for the type checker only

from collections.abc import Iterator
from contextlib import ExitStack
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from types import TracebackType
from typing import Self, cast

import av
from av.audio.stream import AudioStream
from av.container import OutputContainer
from av.packet import Packet

from cadrage.footage.container import opened
from cadrage.render.kinds import SoundName
from cadrage.render.settings import Settings

AAC_RATES = (96000, 88200, 64000, 48000, 44100, 32000, 24000, 22050, 16000, 12000, 11025, 8000, 7350)
"""Sampling frequencies of ISO/IEC 14496-3, table 1.18; from memory."""

STEREO = ("left", "right")
LAYOUTS = {1: "mono", 2: "stereo", 3: "3.0", 4: "4.0", 5: "5.0", 6: "5.1", 8: "7.1"}
"""Channel configurations of ISO/IEC 14496-3, table 1.19; from memory. Other counts are mixed to stereo."""

STUDIO_RATE = 48_000


@dataclass(frozen=True, slots=True)
class Coding:
    """How sound is encoded.

    Attributes:
        codec: as FFmpeg's libraries call it.
        bits: a second, for two channels; None where the codec says.
        any_rate: whether it takes the source's own rate; else it is brought to 48 kHz.
    """

    codec: str
    bits: int | None = None
    any_rate: bool = False


CODINGS: dict[SoundName, Coding] = {
    "keep": Coding("aac", 192_000, any_rate=True),
    "aac-192": Coding("aac", 192_000),
    "aac-256": Coding("aac", 256_000),
    "opus": Coding("libopus", 160_000),
    "pcm-16": Coding("pcm_s16le"),
    "pcm-24": Coding("pcm_s24le"),
}
"""For each way that sound is asked for; "keep" is how it is encoded where it cannot be kept."""

AHEAD = Fraction(1, 2)  # how far sound is written ahead of the picture, in seconds


class SoundCarrier:
    """Feeds the sound of a clip into an output, step by step with the picture.

    Args:
        path: the clip; None where it has no sound, or none is wanted.
        target: the file being written; one stream is added to it for every stream of sound.
        picture_start: time stamp of the clip's first picture in seconds, which becomes 0.
        settings: how sound is asked for; kept as it is means AAC.
    """

    def __init__(self, path: Path | None, target: OutputContainer, picture_start: Fraction, settings: Settings) -> None:
        self._stack = ExitStack()
        self._target = target
        self._tracks: dict[int, Kept | Encoded] = {}
        self._packets: Iterator[Packet[AudioStream]] = iter(())
        self._written = Fraction(-1)
        if path is not None:
            source = self._stack.enter_context(opened(path))
            streams = source.streams.audio
            self._tracks = {stream.index: _track(stream, target, picture_start, settings) for stream in streams}
            self._packets = iter(source.demux(streams))

    def __enter__(self) -> Self:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self._stack.close()

    def carry_to(self, time: Fraction | None) -> None:
        """Write all sound up to shortly after a time of the picture; None writes all that is left."""
        while time is None or self._written < time + AHEAD:
            packet = next(self._packets, None)
            if packet is None:
                return
            track = self._tracks[packet.stream.index]
            if packet.pts is not None and packet.time_base:
                self._written = packet.pts * packet.time_base - track.start
            for ready in track.take(packet):
                self._target.mux(ready)


def _track(stream: AudioStream, target: OutputContainer, start: Fraction, settings: Settings) -> Kept | Encoded:
    channels = stream.codec_context.channels
    mixed = settings.stereo and channels != len(STEREO)
    if settings.sound == "keep" and stream.codec_context.name == "aac" and not mixed:
        return Kept(stream, target, start)
    layout = "stereo" if settings.stereo else LAYOUTS.get(channels, "stereo")
    return Encoded(stream, target, start, CODINGS[settings.sound], layout)


class Kept:
    """A stream whose packets are carried over as they are."""

    def __init__(self, stream: AudioStream, target: OutputContainer, start: Fraction) -> None:
        self.start = start
        self._stream = target.add_stream_from_template(stream)
        self._shift = round(start / (stream.time_base or Fraction(1, stream.rate)))

    def take(self, packet: Packet[AudioStream]) -> Iterator[Packet[AudioStream]]:
        """The packet, its time counted from the first picture."""
        if packet.size == 0 or packet.dts is None:
            return
        packet.stream = self._stream
        packet.pts = None if packet.pts is None else packet.pts - self._shift
        packet.dts -= self._shift
        yield packet


class Encoded:
    """A stream that is decoded and encoded anew."""

    def __init__(
        self, stream: AudioStream, target: OutputContainer, start: Fraction, coding: Coding, channels: str
    ) -> None:
        self.start = start
        self._source = stream
        rate = stream.rate if coding.any_rate and stream.rate in AAC_RATES else STUDIO_RATE
        layout = av.AudioLayout(channels)
        self._stream = cast("AudioStream", target.add_stream(coding.codec, rate=rate, layout=layout))
        if coding.bits is not None:
            self._stream.codec_context.bit_rate = coding.bits * max(2, layout.nb_channels) // 2
        self._stream.codec_context.open()
        self._resampler = av.AudioResampler(
            format=self._stream.codec_context.format,
            layout=layout,
            rate=rate,
            frame_size=self._stream.codec_context.frame_size or None,
        )
        self._offset: int | None = None
        self._rate = rate

    def take(self, packet: Packet[AudioStream]) -> Iterator[Packet[AudioStream]]:
        """What the encoder makes of a packet; of the empty one at the end, all that it still holds."""
        for frame in self._source.decode(packet):
            if self._offset is None:
                begins = (frame.pts or 0) * (frame.time_base or Fraction(1, self._rate)) - self.start
                self._offset = round(begins * self._rate)
            frame.pts = None
            yield from self._encode(self._resampler.resample(frame))
        if packet.size == 0:
            yield from self._encode([*self._resampler.resample(None)])
            yield from self._stream.encode(None)

    def _encode(self, frames: list[av.AudioFrame]) -> Iterator[Packet[AudioStream]]:
        for frame in frames:
            frame.pts, frame.time_base = self._offset, Fraction(1, self._rate)
            self._offset = (self._offset or 0) + frame.samples
            yield from self._stream.encode(frame)
