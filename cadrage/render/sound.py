"""The sound of a clip, carried into the new file at the same distance from the picture."""

from __future__ import annotations  # Packet takes a parameter for the type checker only

from collections.abc import Iterator
from contextlib import ExitStack
from fractions import Fraction
from pathlib import Path
from types import TracebackType
from typing import Self

import av
from av.audio.stream import AudioStream
from av.container import OutputContainer
from av.packet import Packet

from cadrage.footage.container import opened

AAC_RATES = (96000, 88200, 64000, 48000, 44100, 32000, 24000, 22050, 16000, 12000, 11025, 8000, 7350)
"""Sampling frequencies of ISO/IEC 14496-3, table 1.18; from memory."""

AAC_LAYOUTS = {1: "mono", 2: "stereo", 3: "3.0", 4: "4.0", 5: "5.0", 6: "5.1", 8: "7.1"}
"""Channel configurations of ISO/IEC 14496-3, table 1.19; from memory. Other counts are mixed to stereo."""

FALLBACK_RATE = 48_000
AAC_BITS_PER_SECOND = 192_000  # for two channels; common practice, no source
AHEAD = Fraction(1, 2)  # how far sound is written ahead of the picture, in seconds


class SoundCarrier:
    """Feeds the sound of a clip into an output, step by step with the picture. AAC is kept as it is.

    Args:
        path: the clip; None where it has no sound.
        target: the file being written; one stream is added to it for every stream of sound.
        picture_start: time stamp of the clip's first picture in seconds, which becomes 0.
    """

    def __init__(self, path: Path | None, target: OutputContainer, picture_start: Fraction) -> None:
        self._stack = ExitStack()
        self._target = target
        self._tracks: dict[int, Kept | Encoded] = {}
        self._packets: Iterator[Packet[AudioStream]] = iter(())
        self._written = Fraction(-1)
        if path is not None:
            source = self._stack.enter_context(opened(path))
            streams = source.streams.audio
            self._tracks = {stream.index: _track(stream, target, picture_start) for stream in streams}
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


def _track(stream: AudioStream, target: OutputContainer, start: Fraction) -> Kept | Encoded:
    return Kept(stream, target, start) if stream.codec_context.name == "aac" else Encoded(stream, target, start)


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
    """A stream that is decoded and encoded as AAC."""

    def __init__(self, stream: AudioStream, target: OutputContainer, start: Fraction) -> None:
        self.start = start
        self._source = stream
        rate = stream.rate if stream.rate in AAC_RATES else FALLBACK_RATE
        layout = av.AudioLayout(AAC_LAYOUTS.get(stream.codec_context.channels, "stereo"))
        self._stream = target.add_stream("aac", rate=rate, layout=layout)
        self._stream.codec_context.bit_rate = AAC_BITS_PER_SECOND * max(2, layout.nb_channels) // 2
        self._stream.codec_context.open()
        self._resampler = av.AudioResampler(
            format=self._stream.codec_context.format,
            layout=layout,
            rate=rate,
            frame_size=self._stream.codec_context.frame_size,
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
