"""Decoding streams of sound, each piece with the time at which a player would let it be heard."""

from __future__ import annotations  # Packet takes a parameter for the type checker only

from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction

import av
from av.audio.stream import AudioStream
from av.container import InputContainer
from av.packet import Packet


def sound_streams(container: InputContainer) -> tuple[AudioStream, ...]:
    """The streams of sound that can be decoded: those whose codec, rate and channels are known."""
    return tuple(stream for stream in container.streams.audio if _decodable(stream))


def _decodable(stream: AudioStream) -> bool:
    context = stream.codec_context
    return context is not None and bool(context.sample_rate) and bool(context.layout.nb_channels)


@dataclass(frozen=True, slots=True)
class Heard:
    """A piece of sound.

    Attributes:
        frame: its samples.
        start: when the first of them is heard, in seconds on the file's clock.
    """

    frame: av.AudioFrame
    start: Fraction

    @property
    def end(self) -> Fraction:
        """When the last of them is over."""
        return self.start + Fraction(self.frame.samples, self.frame.sample_rate)


class SoundDecoder:
    """Decodes the packets of one stream in order, past what is damaged.

    What an encoder put before the sound proper, and what fills its last packet, is left out where the container says so
    (edit lists of ISO/IEC 14496-12, CodecDelay and DiscardPadding of Matroska, granules of Ogg): libavcodec does that
    with the samples, and moves the times along.

    Attributes:
        errors: times of packets that could not be decoded, in seconds.
    """

    def __init__(self, stream: AudioStream) -> None:
        self._context = stream.codec_context
        self._tick = stream.time_base or Fraction(1, self._context.sample_rate)
        self._due: Fraction | None = None
        self.errors: list[Fraction] = []

    def heard(self, packet: Packet[AudioStream] | None) -> Iterator[Heard]:
        """What comes out for a packet; None for all that is still held."""
        try:
            frames = self._context.decode(packet)
        except (av.FFmpegError, ValueError):
            stamp = packet.pts if packet is not None else None
            self.errors.append(self._due or Fraction(0) if stamp is None else stamp * self._tick)
            return
        for frame in frames:
            if frame.samples and frame.sample_rate:
                start = self._due if frame.pts is None else frame.pts * (frame.time_base or self._tick)
                piece = Heard(frame, start or Fraction(0))
                self._due = piece.end
                yield piece
