"""The sound of a clip, carried into the new file at the same distance from the picture."""

from __future__ import annotations  # Packet takes a parameter for the type checker only

from collections.abc import Iterable, Iterator
from contextlib import ExitStack
from dataclasses import replace
from fractions import Fraction
from types import TracebackType
from typing import Any, Self

import av
from av.audio.stream import AudioStream
from av.container import InputContainer, OutputContainer
from av.packet import Packet

from cadrage.footage import SoundFacts, taken_as
from cadrage.footage.container import LAYOUTS, opened, picture_stream
from cadrage.footage.packets import Packets
from cadrage.footage.soundtrack import sound_streams
from cadrage.render.order import Order
from cadrage.render.sound_placing import AudioTrim
from cadrage.render.sound_tracks import Encoded, Kept

STEREO = ("left", "right")
MIXED = 7  # channels, for which ISO/IEC 14496-3, table 1.19, has no configuration (from memory): mixed to stereo

LEAD_IN = Fraction(1)  # how much is decoded before and after a range, in seconds
AHEAD = Fraction(1, 2)  # how far sound is written ahead of the picture, in seconds
KEEPING = ("mov", "matroska")  # containers whose packets have stamps that another takes over as they are
HOLDING = ("mp4", "mov")  # containers that say how much of a kept stream is not to be heard; for AAC, Matroska does not
LATE = Fraction(-1, 1000)  # earlier than this sound begins before the picture, and is cut


class SoundCarrier:
    """Feeds the sound of a clip into an output, step by step with the picture.

    Args:
        order: what is asked for.
        target: the file being written; one stream is added to it for every stream of sound that is wanted.
        picture_start: time stamp of the clip's first picture in seconds.
    """

    def __init__(self, order: Order, target: OutputContainer, picture_start: Fraction) -> None:
        self._stack = ExitStack()
        self._order, self._target, self._picture_start = order, target, picture_start
        self._tracks: dict[int, Kept | Encoded] = {}
        self._packets: Iterator[Packet[Any]] = iter(())
        self._written = Fraction(-1)
        own = taken_as(order.facts, order.plan.interpretation).duration
        self._trim = AudioTrim.of(order.pace, picture_start, own)
        self._whole = self._trim.whole_from(picture_start)
        if order.facts.sounds and order.writing.sound != "none":
            source, self._packets = self._reading(picture_start)
            for stream, facts in _wanted(source, order.facts.sounds):
                self._tracks[stream.index] = self._track(stream, facts)

    def _reading(self, picture_start: Fraction) -> tuple[InputContainer, Iterator[Packet[Any]]]:
        """The clip, and its packets from a little before what is delivered."""
        source = self._stack.enter_context(opened(self._order.source))
        since = self._trim.start - LEAD_IN
        if since <= picture_start or not self._order.facts.seekable:
            return source, self._through(source)
        source.seek(int(since * av.time_base))
        packets = self._through(source)
        first = next(packets, None)
        if first is not None and first.pts is not None and first.pts * (first.time_base or 0) <= self._trim.start:
            return source, _chained(first, packets)
        packets = iter(())  # it went too far
        self._stack.close()
        source = self._stack.enter_context(opened(self._order.source))
        return source, self._through(source)

    def _through(self, source: InputContainer) -> Iterator[Packet[Any]]:
        """Packets of sound; those of the picture are read as well, since the clock may jump in any of them."""
        picture = picture_stream(source, self._order.source)
        packets = Packets(source, (picture, *sound_streams(source)))
        return (packet for packet in packets if packet.stream_index != picture.index)

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
            if packet is None or self._over(packet):
                self._finish()
                return
            if packet.pts is not None and packet.time_base:
                self._written = (packet.pts * packet.time_base - self._trim.start) / self._trim.speed
            if (track := self._tracks.get(packet.stream_index)) is not None:
                self._mux(track.take(packet))

    def _over(self, packet: Packet[Any]) -> bool:
        """Whether nothing of this packet, or of those behind it, is delivered."""
        end = self._trim.end
        if end is None or packet.pts is None or not packet.time_base:
            return False
        return packet.pts * packet.time_base > end + LEAD_IN

    def _finish(self) -> None:
        self._packets = iter(())
        while self._tracks:
            _, track = self._tracks.popitem()
            self._mux(track.finish())

    def _mux(self, packets: Iterable[Packet[AudioStream]]) -> None:
        for packet in packets:
            self._target.mux(packet)

    def _track(self, stream: AudioStream, facts: SoundFacts) -> Kept | Encoded:
        order = self._order
        if self._whole and kept(order, facts):
            return Kept(stream, self._target, self._trim.start)
        channels = stream.codec_context.channels
        mixed = order.settings.stereo or channels == MIXED
        layout = "stereo" if mixed else LAYOUTS.get(channels, "stereo")
        return Encoded(stream, self._target, self._trimmed(facts), order, layout)

    def _trimmed(self, facts: SoundFacts) -> AudioTrim:
        """What is delivered, without what only fills a stream's last packet."""
        trim, source = self._trim, self._order.facts
        if facts.duration is None or source.counted == "estimated":
            return trim
        ends = self._picture_start + facts.start + facts.duration
        return replace(trim, end=ends if trim.end is None else min(ends, trim.end))


def whole_sound(order: Order) -> bool:
    """Whether all of a clip is delivered, at its own speed."""
    own = taken_as(order.facts, order.plan.interpretation).duration
    return AudioTrim.of(order.pace, Fraction(0), own).whole_from(Fraction(0))


def kept(order: Order, facts: SoundFacts) -> bool:
    """Whether a stream can be carried over as it is, and then is in place as well."""
    settings, source = order.settings, order.facts
    mixed = settings.stereo and facts.channels != len(STEREO)
    damaged = any(one.kind in ("sound_damaged", "unreadable", "cut_short", "clock_jumps") for one in source.findings)
    holds = order.writing.sound == "keep" and order.writing.kind.muxer in HOLDING
    fits = holds and facts.codec == "aac" and not mixed
    return fits and source.demuxer in KEEPING and facts.start >= LATE and not damaged


def _wanted(source: InputContainer, facts: Iterable[SoundFacts]) -> Iterator[tuple[AudioStream, SoundFacts]]:
    """The streams that were found to be audible, each with what was found."""
    streams = sound_streams(source)
    for number, one in enumerate(facts):
        stream = next((stream for stream in streams if stream.index == one.stream), None)
        if stream is None and one.stream is None and number < len(streams):
            stream = streams[number]
        if stream is not None:
            yield stream, one


def _chained(first: Packet[Any], packets: Iterator[Packet[Any]]) -> Iterator[Packet[Any]]:
    yield first
    yield from packets
