"""The packets of a clip's sound, from a little before what is delivered to a little behind it."""

from __future__ import annotations  # Packet takes a parameter for the type checker only

from collections.abc import Iterator
from contextlib import ExitStack
from fractions import Fraction
from types import TracebackType
from typing import Any, Self

import av
from av.container import InputContainer
from av.packet import Packet

from cadrage.footage.container import opened, picture_stream
from cadrage.footage.packets import Packets
from cadrage.footage.soundtrack import sound_streams
from cadrage.render.request import RenderRequest
from cadrage.render.sound_placing import AudioTrim

LEAD_IN = Fraction(1)  # how much is decoded before and after a range, in seconds


class SoundReading:
    """Reads them once; a context manager.

    Args:
        request: whose clip is read.
        trim: the part that is delivered.
        picture_start: time stamp of the clip's first picture in seconds.
    """

    def __init__(self, request: RenderRequest, trim: AudioTrim, picture_start: Fraction) -> None:
        self._request, self._trim, self._picture_start = request, trim, picture_start
        self._stack = ExitStack()
        self._packets: Iterator[Packet[Any]] = iter(())
        self.source: InputContainer

    def __enter__(self) -> Self:
        self._open()
        since = self._trim.start - LEAD_IN
        if since <= self._picture_start or not self._request.info.seekable:
            return self
        self.source.seek(int(since * av.time_base))
        first = next(self._packets, None)
        if first is not None and first.pts is not None and first.pts * (first.time_base or 0) <= self._trim.start:
            self._packets = _chained(first, self._packets)
            return self
        self._open()  # it went too far
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self._packets = iter(())
        self._stack.close()

    def __iter__(self) -> Iterator[Packet[Any]]:
        return self

    def __next__(self) -> Packet[Any]:
        packet = next(self._packets)
        if self._over(packet):
            self._packets = iter(())
            raise StopIteration
        return packet

    def _open(self) -> None:
        """Open the clip, or open it anew.

        Packets of the picture are read as well, since the clock may jump in any of them.
        """
        self._packets = iter(())
        self._stack.close()
        self.source = self._stack.enter_context(opened(self._request.source))
        picture = picture_stream(self.source, self._request.source)
        packets = Packets(self.source, (picture, *sound_streams(self.source)))
        self._packets = (packet for packet in packets if packet.stream_index != picture.index)

    def _over(self, packet: Packet[Any]) -> bool:
        """Whether nothing of this packet, or of those behind it, is delivered."""
        end = self._trim.end
        if end is None or packet.pts is None or not packet.time_base:
            return False
        return packet.pts * packet.time_base > end + LEAD_IN


def _chained(first: Packet[Any], packets: Iterator[Packet[Any]]) -> Iterator[Packet[Any]]:
    yield first
    yield from packets
