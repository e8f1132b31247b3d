"""The sound of a clip, carried into the new file at the same distance from the picture."""

from __future__ import annotations  # Packet takes a parameter for the type checker only

from collections.abc import Iterator
from contextlib import ExitStack
from dataclasses import dataclass
from fractions import Fraction
from itertools import pairwise
from types import TracebackType
from typing import Self, cast

import av
from av.audio.stream import AudioStream
from av.container import OutputContainer
from av.filter import Graph
from av.packet import Packet

from cadrage.footage import taken_as
from cadrage.footage.container import opened
from cadrage.render.kinds import SoundName
from cadrage.render.order import Order
from cadrage.render.pace import Pace
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

LEAD_IN = Fraction(1)  # how much is decoded before and after a range, in seconds
AHEAD = Fraction(1, 2)  # how far sound is written ahead of the picture, in seconds


@dataclass(frozen=True, slots=True)
class Stretch:
    """The part of a clip's sound that is delivered.

    Attributes:
        start: of what is delivered, in the clip's own time stamps, in seconds.
        end: in the same; None is the clip's end.
        speed: seconds of the clip in one delivered second.
    """

    start: Fraction
    end: Fraction | None = None
    speed: Fraction = Fraction(1)

    @classmethod
    def of(cls, pace: Pace, picture_start: Fraction, own: Fraction) -> Stretch:
        """What a pace delivers of a clip whose pictures last `own` seconds; of all of a clip, its sound to the end."""
        length = pace.facts.duration * pace.speed
        end = None if pace.start + length >= own else picture_start + pace.start + length
        return cls(picture_start + pace.start, end, pace.speed)

    def whole_from(self, picture_start: Fraction) -> bool:
        """Whether nothing is cut off or drawn out."""
        return self.start == picture_start and self.end is None and self.speed == 1


class SoundCarrier:
    """Feeds the sound of a clip into an output, step by step with the picture.

    Args:
        order: what is asked for.
        target: the file being written; one stream is added to it for every stream of sound that is wanted.
        picture_start: time stamp of the clip's first picture in seconds.
    """

    def __init__(self, order: Order, target: OutputContainer, picture_start: Fraction) -> None:
        self._stack = ExitStack()
        self._target = target
        self._tracks: dict[int, Kept | Encoded] = {}
        self._packets: Iterator[Packet[AudioStream]] = iter(())
        self._written = Fraction(-1)
        own = taken_as(order.facts, order.plan.interpretation).duration
        self._stretch = Stretch.of(order.pace, picture_start, own)
        self._whole = self._stretch.whole_from(picture_start)
        if order.facts.sounds and order.settings.sound != "none":
            source = self._stack.enter_context(opened(order.source))
            streams = source.streams.audio
            self._tracks = {stream.index: self._track(stream, order.settings) for stream in streams}
            if self._stretch.start - picture_start > LEAD_IN:
                source.seek(int((self._stretch.start - LEAD_IN) * av.time_base))
            self._packets = iter(source.demux(streams))

    def __enter__(self) -> Self:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self._stack.close()

    def carry_to(self, time: Fraction | None) -> None:
        """Write all sound up to shortly after a time of the file; None writes all that is left."""
        while time is None or self._written < time + AHEAD:
            packet = next(self._packets, None)
            if packet is None or self._over(packet):
                self._finish()
                return
            if packet.size == 0:
                continue
            if packet.pts is not None and packet.time_base:
                self._written = (packet.pts * packet.time_base - self._stretch.start) / self._stretch.speed
            self._mux(self._tracks[packet.stream.index].take(packet))

    def _over(self, packet: Packet[AudioStream]) -> bool:
        """Whether nothing of this packet, or of those behind it, is delivered."""
        end = self._stretch.end
        if end is None or packet.pts is None or not packet.time_base:
            return False
        return packet.pts * packet.time_base > end + LEAD_IN

    def _finish(self) -> None:
        self._packets = iter(())
        while self._tracks:
            _, track = self._tracks.popitem()
            self._mux(track.finish())

    def _mux(self, packets: Iterator[Packet[AudioStream]]) -> None:
        for packet in packets:
            self._target.mux(packet)

    def _track(self, stream: AudioStream, settings: Settings) -> Kept | Encoded:
        channels = stream.codec_context.channels
        mixed = settings.stereo and channels != len(STEREO)
        if settings.sound == "keep" and stream.codec_context.name == "aac" and not mixed and self._whole:
            return Kept(stream, self._target, self._stretch.start)
        layout = "stereo" if settings.stereo else LAYOUTS.get(channels, "stereo")
        return Encoded(stream, self._target, self._stretch, CODINGS[settings.sound], layout, trimmed=not self._whole)


class Kept:
    """A stream whose packets are carried over as they are."""

    def __init__(self, stream: AudioStream, target: OutputContainer, start: Fraction) -> None:
        self._stream = target.add_stream_from_template(stream)
        self._shift = round(start / (stream.time_base or Fraction(1, stream.rate)))

    def take(self, packet: Packet[AudioStream]) -> Iterator[Packet[AudioStream]]:
        """The packet, its time counted from the first picture."""
        if packet.dts is None:
            return
        packet.stream = self._stream
        packet.pts = None if packet.pts is None else packet.pts - self._shift
        packet.dts -= self._shift
        yield packet

    def finish(self) -> Iterator[Packet[AudioStream]]:
        """Nothing is held back."""
        return iter(())


class Encoded:
    """A stream that is decoded and encoded anew."""

    def __init__(
        self,
        stream: AudioStream,
        target: OutputContainer,
        stretch: Stretch,
        coding: Coding,
        channels: str,
        *,
        trimmed: bool,
    ) -> None:
        self._stretch = stretch
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
        self._trimmer = Trimmer(stream, stretch) if trimmed else None

    def take(self, packet: Packet[AudioStream] | None) -> Iterator[Packet[AudioStream]]:
        """What the encoder makes of a packet; None drains the decoder."""
        for frame in self._source.codec_context.decode(packet):
            for part in self._trimmer.take(frame) if self._trimmer else [frame]:
                yield from self._taken(part)

    def finish(self) -> Iterator[Packet[AudioStream]]:
        """All that decoder and encoder still hold."""
        yield from self.take(None)
        for part in self._trimmer.take(None) if self._trimmer else []:
            yield from self._taken(part)
        yield from self._encode([*self._resampler.resample(None)])
        yield from self._stream.encode(None)

    def _taken(self, frame: av.AudioFrame) -> Iterator[Packet[AudioStream]]:
        if self._offset is None:
            begins = (frame.pts or 0) * (frame.time_base or Fraction(1, self._rate)) - self._stretch.start
            self._offset = round(begins / self._stretch.speed * self._rate)
        frame.pts = None
        yield from self._encode(self._resampler.resample(frame))

    def _encode(self, frames: list[av.AudioFrame]) -> Iterator[Packet[AudioStream]]:
        for frame in frames:
            frame.pts, frame.time_base = self._offset, Fraction(1, self._rate)
            self._offset = (self._offset or 0) + frame.samples
            yield from self._stream.encode(frame)


class Trimmer:
    """Cuts sound to a stretch, to the sample, and lets it run faster or slower with its pitch kept (FFmpeg's atempo).

    The frames that come out first and last say nothing of speed; the first has the clip's own time.
    """

    def __init__(self, stream: AudioStream, stretch: Stretch) -> None:
        self._graph = Graph()
        source = self._graph.add_abuffer(template=stream)
        ends = {} if stretch.end is None else {"end": f"{float(stretch.end):.9f}"}
        trim = self._graph.add("atrim", start=f"{float(stretch.start):.9f}", **ends)
        sink = self._graph.add("abuffersink")
        chain = [source, trim, sink]
        if stretch.speed != 1:
            chain.insert(2, self._graph.add("atempo", f"{float(stretch.speed):.12f}"))
        for one, following in pairwise(chain):
            one.link_to(following)
        self._graph.configure()

    def take(self, frame: av.AudioFrame | None) -> Iterator[av.AudioFrame]:
        """What comes out for a frame; None drains it."""
        self._graph.push(frame)
        while True:
            try:
                made = self._graph.pull()
            except (av.error.BlockingIOError, av.error.EOFError):
                return
            assert isinstance(made, av.AudioFrame)
            yield made
