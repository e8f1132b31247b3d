"""How sound is encoded, and what comes back of it."""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from fractions import Fraction
from itertools import chain
from typing import cast

import av
from av.audio.codeccontext import AudioCodecContext
from av.codec.context import CodecContext

from cadrage.output.kinds import SoundName

STUDIO_RATE = 48_000
AAC_RATES = (96000, 88200, 64000, 48000, 44100, 32000, 24000, 22050, 16000, 12000, 11025, 8000, 7350)
"""Sampling frequencies of ISO/IEC 14496-3, table 1.18; from memory."""


@dataclass(frozen=True, slots=True)
class Coding:
    """How sound is encoded.

    Attributes:
        codec: the encoder's name in FFmpeg's libraries.
        bits: a second, for two channels; None where samples are written as they are.
        any_rate: whether it takes the source's own rate; else it is brought to 48 kHz.
    """

    codec: str
    bits: int | None = None
    any_rate: bool = False

    @property
    def is_lossy(self) -> bool:
        """Whether what is decoded again differs from what was encoded."""
        return self.bits is not None

    def rate_for(self, own: int) -> int:
        """Samples a second that sound of some rate is written with."""
        return own if self.any_rate and own in AAC_RATES else STUDIO_RATE

    def set_up(self, context: AudioCodecContext, channels: int) -> None:
        """Open an encoder whose rate and layout are set."""
        if self.bits is not None:
            context.bit_rate = self.bits * max(2, channels) // 2
        context.open()


CODINGS: dict[SoundName, Coding] = {
    "keep": Coding("aac", 192_000, any_rate=True),
    "aac-192": Coding("aac", 192_000),
    "aac-256": Coding("aac", 256_000),
    "opus": Coding("libopus", 160_000),
    "pcm-16": Coding("pcm_s16le"),
    "pcm-24": Coding("pcm_s24le"),
}
"""For each way that sound is asked for; "keep" is how it is encoded where it cannot be kept."""


def through_codec(frames: Iterable[av.AudioFrame], coding: Coding, rate: int) -> Iterator[av.AudioFrame]:
    """Encode a line of float samples and decode it again, frame by frame, as a player would hear it."""
    trip: _RoundTrip | None = None
    for frame in frames:
        trip = trip or _RoundTrip(coding, rate, frame.layout)
        yield from trip.take(frame)
    if trip is not None:
        yield from trip.take(None)


class _RoundTrip:
    """An encoder and the decoder of what it makes."""

    def __init__(self, coding: Coding, rate: int, layout: av.AudioLayout) -> None:
        self._encoder = _encoder(coding, rate, layout)
        self._decoder = _decoder_of(self._encoder)
        # Frames as the encoder wants them; rate and channels are right already.
        self._framer = av.AudioResampler(self._encoder.format, layout, rate, self._encoder.frame_size or None)
        self._position, self._tick = 0, Fraction(1, rate)

    def take(self, frame: av.AudioFrame | None) -> Iterator[av.AudioFrame]:
        """What comes back for a frame; None for all that is still held."""
        if frame is not None:
            frame.pts = None
        for whole in self._framer.resample(frame):
            whole.pts, whole.time_base = self._position, self._tick
            self._position += whole.samples
            yield from self._decoded(whole)
        if frame is None:
            yield from self._decoded(None)

    def _decoded(self, whole: av.AudioFrame | None) -> Iterator[av.AudioFrame]:
        return chain.from_iterable(map(self._decoder.decode, self._encoder.encode(whole)))


def _encoder(coding: Coding, rate: int, layout: av.AudioLayout) -> AudioCodecContext:
    encoder = cast("AudioCodecContext", CodecContext.create(coding.codec, "w"))
    encoder.sample_rate, encoder.layout, encoder.time_base = rate, layout, Fraction(1, rate)
    encoder.format = encoder.codec.audio_formats[0] if encoder.codec.audio_formats else "flt"
    coding.set_up(encoder, layout.nb_channels)
    return encoder


def _decoder_of(encoder: AudioCodecContext) -> AudioCodecContext:
    decoder = cast("AudioCodecContext", CodecContext.create(encoder.codec.canonical_name, "r"))
    decoder.extradata, decoder.layout, decoder.sample_rate = encoder.extradata, encoder.layout, encoder.sample_rate
    return decoder
