"""Packets in the order of the file, on a clock that does not jump."""

from __future__ import annotations  # Packet takes a parameter for the type checker only

from collections.abc import Iterator, Sequence
from fractions import Fraction
from typing import Any

import av
from av.audio.stream import AudioStream
from av.container import InputContainer
from av.packet import Packet
from av.video.stream import VideoStream

from cadrage.footage.container import demuxer_of

Track = AudioStream | VideoStream

JUMPING = ("mpegts", "mpeg")
"""Containers of broadcasts and discs, whose clock may begin anew in the middle (ISO/IEC 13818-1, discontinuities)."""
STRICT = ("mpegts",)  # of these, those that state a time for every picture
FORWARD, BACKWARD, BACKWARD_STRICT = Fraction(10), Fraction(1, 2), Fraction(1, 10)
"""Seconds that a clock may run ahead of what is expected, or fall behind it, before it counts as another clock."""
MOST_TRIES = 4  # reads that fail one after another before the rest of a file is given up


class Clock:
    """Makes one clock of several: where it jumps, all that follows is moved so that it goes on.

    Args:
        picture: of containers that state a time for every picture, the number of their stream: its clock may not even
            stand still, and the others may fall behind by less.

    Attributes:
        jumps: times, on the mended clock, at which it jumped, in seconds.
    """

    def __init__(self, picture: int | None) -> None:
        self._picture = picture
        self.jumps: list[Fraction] = []
        self._backward = BACKWARD if picture is None else BACKWARD_STRICT
        self._shift = Fraction(0)
        self._due: dict[int, Fraction] = {}
        self._before: dict[int, Fraction] = {}

    def mend(self, packet: Packet[Any]) -> None:
        """Set the packet's times to what they are on the mended clock."""
        tick = packet.time_base
        if packet.dts is None or not tick:
            return
        time, due = packet.dts * tick + self._shift, self._due.get(packet.stream_index)
        if due is not None and (not -self._backward <= time - due <= FORWARD or self._stands(packet, time)):
            self._shift += due - time
            time = due
            self.jumps.append(time)
        self._before[packet.stream_index] = time
        self._due[packet.stream_index] = time + (packet.duration or 0) * tick
        if self._shift:
            ticks = round(self._shift / tick)
            packet.dts += ticks
            packet.pts = None if packet.pts is None else packet.pts + ticks

    def _stands(self, packet: Packet[Any], time: Fraction) -> bool:
        return packet.stream_index == self._picture and time <= self._before[packet.stream_index]


class Packets:
    """Reads the packets of some streams, from where a container stands, past what cannot be read.

    Args:
        container: what to read from.
        streams: whose packets are wanted, that of the picture first. Pass all that may ever be compared: a jump of the
            clock shows in any of them.

    Attributes:
        format: of the container, by its first name.
        clock: as it was mended; None for containers whose clock never jumps.
        failed: whether the rest of the file could not be read.
    """

    def __init__(self, container: InputContainer, streams: Sequence[Track]) -> None:
        self._container, self._streams = container, streams
        self.format = demuxer_of(container)
        strict = streams[0].index if self.format in STRICT else None
        self.clock = Clock(strict) if self.format in JUMPING else None
        self.failed = False

    def __iter__(self) -> Iterator[Packet[Any]]:
        tries = 0
        while tries < MOST_TRIES:
            try:
                for packet in self._container.demux(*self._streams):
                    if packet.size:  # an empty one only asks a decoder for what it still holds
                        tries = 0
                        if self.clock:
                            self.clock.mend(packet)
                        yield packet
            except av.FFmpegError:
                tries += 1
                continue
            return
        self.failed = True
