"""Streams of sound as they are written: packets as they are, or decoded and encoded anew."""

from __future__ import annotations  # Packet takes a parameter for the type checker only

from collections.abc import Iterator, Sequence
from fractions import Fraction
from typing import cast

import av
from av.audio.stream import AudioStream
from av.container import OutputContainer
from av.packet import Packet

from cadrage.render.mixing import Mix, mix_of, usual_names
from cadrage.render.request import RenderRequest
from cadrage.render.sound_coding import CODINGS
from cadrage.render.sound_line import Level, SoundLine
from cadrage.render.sound_placing import AudioTrim
from cadrage.render.speed import Speed

ROUGH = ("avi",)  # containers whose stamps of sound are too rough to show a gap
PACKED = {"fltp": "flt", "s16p": "s16", "s32p": "s32"}
"""Sample formats with channels apart, and the same with channels interleaved."""


class Kept:
    """A stream whose packets are carried over as they are."""

    def __init__(self, stream: AudioStream, target: OutputContainer, start: Fraction) -> None:
        self.stream = target.add_stream_from_template(stream)
        self._shift = round(start / (stream.time_base or Fraction(1, stream.rate)))
        self._last: int | None = None

    def take(self, packet: Packet[AudioStream]) -> Iterator[Packet[AudioStream]]:
        """The packet, its time counted from the first picture."""
        if packet.dts is None:
            return
        packet.stream = self.stream
        packet.dts = self._after(packet.dts - self._shift)
        packet.pts = packet.dts if packet.pts is None else max(packet.pts - self._shift, packet.dts)
        self._last = packet.dts
        yield packet

    def _after(self, stamp: int) -> int:
        """The same, or later where the packet before has it already, as in some fragmented files."""
        return stamp if self._last is None else max(stamp, self._last + 1)

    def finish(self) -> Iterator[Packet[AudioStream]]:
        """Nothing is held back."""
        return iter(())


class Encoded:
    """A stream that is decoded and encoded anew.

    Args:
        streams: it is decoded from: one, or several mono ones that are joined.
        target: the file; a stream is added to it.
        trim: the part that is delivered.
        request: what is asked for.
        level: how loud it is written.
    """

    def __init__(
        self,
        streams: Sequence[AudioStream],
        target: OutputContainer,
        trim: AudioTrim,
        request: RenderRequest,
        level: Level,
    ) -> None:
        coding = CODINGS[request.encoder_config.sound_encoded]
        mix = mix_for(streams, request)
        self._rate = coding.rate_for(streams[0].rate)
        layout = av.AudioLayout(mix.layout)
        self.stream = cast("AudioStream", target.add_stream(coding.codec, rate=self._rate, layout=layout))
        context = self.stream.codec_context
        coding.set_up(context, layout.nb_channels)
        placed = PACKED.get(context.format.name, context.format.name)
        self._line = SoundLine(streams, self._rate, placed, mix, trim, level=level, steady=is_rough(request))
        self._speed = Speed(self._rate, mix.layout, self._line.sample_format, trim.speed) if trim.speed != 1 else None
        # Frames as the encoder wants them; rate and channels are right already.
        self._framer = av.AudioResampler(context.format, layout, self._rate, context.frame_size or None)
        self._position = 0

    def take(self, packet: Packet[AudioStream]) -> Iterator[Packet[AudioStream]]:
        """What the encoder makes of a packet."""
        for frame in self._line.take(packet):
            yield from self._placed(frame)

    def finish(self) -> Iterator[Packet[AudioStream]]:
        """All that decoder and encoder still hold."""
        for frame in self._line.finish():
            yield from self._placed(frame)
        for frame in self._speed.change(None) if self._speed else ():
            yield from self._encoded(frame)
        yield from self._encoded(None)
        yield from self.stream.encode(None)

    def _placed(self, frame: av.AudioFrame) -> Iterator[Packet[AudioStream]]:
        for changed in self._speed.change(frame) if self._speed else (frame,):
            yield from self._encoded(changed)

    def _encoded(self, placed: av.AudioFrame | None) -> Iterator[Packet[AudioStream]]:
        if placed is not None:
            placed.pts = None
        for frame in self._framer.resample(placed):
            frame.pts, frame.time_base = self._position, Fraction(1, self._rate)
            self._position += frame.samples
            yield from self.stream.encode(frame)


def mix_for(streams: Sequence[AudioStream], request: RenderRequest) -> Mix:
    """What becomes of the channels of a track: those of its stream, or one of each of several."""
    names = usual_names(len(streams))
    if len(streams) == 1:
        names = tuple(channel.name for channel in streams[0].codec_context.layout.channels)
    return mix_of(names, picked=request.settings.picked_channels, stereo=request.settings.stereo)


def is_rough(request: RenderRequest) -> bool:
    """Whether the clip's stamps of sound are too rough to show a gap."""
    return request.info.demuxer in ROUGH
