"""One stream of sound from packets to an unbroken line of samples: decoded, placed, mixed, and held in its peaks."""

from __future__ import annotations  # Packet takes a parameter for the type checker only

from collections.abc import Iterator

import av
import numpy as np
from av.audio.stream import AudioStream
from av.packet import Packet

from cadrage.footage.soundtrack import SoundDecoder
from cadrage.render.mixing import Mix
from cadrage.render.peaks import PeakLimiter
from cadrage.render.sound_placing import AudioTrim, SoundPlacer


class SoundLine:
    """The line of one stream.

    Args:
        stream: it is decoded from.
        rate: samples a second of what comes out.
        sample_format: of the same, its channels interleaved; where anything is reckoned with, that is done in float.
        mix: what becomes of its channels.
        gain: what it is multiplied with.
        trim: the part that is delivered.
        steady: whether the source's time stamps are too rough to show a gap.

    Attributes:
        sample_format: of what comes out.
    """

    def __init__(
        self,
        stream: AudioStream,
        rate: int,
        sample_format: str,
        mix: Mix,
        trim: AudioTrim,
        *,
        gain: float = 1.0,
        steady: bool = False,
    ) -> None:
        self._decoder, self._rate, self._mix, self._gain = SoundDecoder(stream), rate, mix, gain
        self._reckoned = mix.matrix is not None or gain != 1
        self.sample_format = "flt" if self._reckoned else sample_format
        own = stream.codec_context.layout
        layout = mix.layout if mix.matrix is None else own.name
        self._placer = SoundPlacer(rate, layout, self.sample_format, trim, steady=steady)
        self._channels = av.AudioLayout(layout).nb_channels
        self._limiter = PeakLimiter(rate, av.AudioLayout(mix.layout).nb_channels) if self._reckoned else None

    def take(self, packet: Packet[AudioStream] | None) -> Iterator[av.AudioFrame]:
        """What comes out for a packet; None drains the decoder."""
        for piece in self._decoder.heard(packet):
            for frame in self._placer.place(piece):
                yield from self._mixed(frame)

    def finish(self) -> Iterator[av.AudioFrame]:
        """All that is still held."""
        yield from self.take(None)
        for frame in self._placer.finish():
            yield from self._mixed(frame)
        if self._limiter is not None:
            yield from self._framed(self._limiter.finish())

    def _mixed(self, frame: av.AudioFrame) -> Iterator[av.AudioFrame]:
        if self._limiter is None:
            yield frame
            return
        sound = frame.to_ndarray().reshape(-1, self._channels)
        mixed = sound if self._mix.matrix is None else sound @ self._mix.matrix.T
        yield from self._framed(self._limiter.take((mixed * np.float32(self._gain)).astype(np.float32, copy=False)))

    def _framed(self, sound: np.ndarray[tuple[int, ...], np.dtype[np.float32]]) -> Iterator[av.AudioFrame]:
        if not len(sound):
            return
        made = av.AudioFrame.from_ndarray(np.ascontiguousarray(sound.reshape(1, -1)), "flt", self._mix.layout)
        made.sample_rate = self._rate
        yield made
