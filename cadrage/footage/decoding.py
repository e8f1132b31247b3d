"""Decoding a stream of pictures packet by packet, past what is damaged."""

from __future__ import annotations  # Packet takes a parameter for the type checker only

from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction
from typing import Literal

import av
from av.packet import Packet
from av.video.frame import VideoFrame
from av.video.stream import VideoStream

ShownBy = Literal["presentation", "decoding"]
"""Which time stamps say when a picture is shown: those meant for it, or where these are shuffled, those of decoding."""


@dataclass(frozen=True, slots=True)
class Picture:
    """A picture as decoded.

    Attributes:
        frame: its samples.
        stamp: when it is shown, on the stream's clock, as the file has it.
        ticks: the same, always later than the one before it.
    """

    frame: VideoFrame
    stamp: int
    ticks: int


class PictureDecoder:
    """Decodes the packets of one stream in order.

    Args:
        stream: whose packets come.
        shown_by: which time stamps count.
        step: ticks of one picture, for those that have no stamp of their own.

    Attributes:
        shown_by: as given.
        errors: time stamps, in ticks, of packets that could not be decoded.
        late_presentation, late_decoding: how many pictures had a time stamp of either kind that did not come after the
            one before it.
    """

    def __init__(self, stream: VideoStream, shown_by: ShownBy, step: int) -> None:
        self._context = stream.codec_context
        self.shown_by, self._step = shown_by, max(1, step)
        self.errors: list[int] = []
        self.late_presentation = self.late_decoding = 0
        self._before: dict[str, int] = {}
        self._last: int | None = None

    def pictures(self, packet: Packet[VideoStream] | None) -> Iterator[Picture]:
        """What comes out for a packet; None for all that is still held."""
        try:
            frames = self._context.decode(packet)
        except (av.FFmpegError, ValueError):
            self.errors.append(self._stamp_of(packet))
            return
        for frame in frames:
            stamp = self._stamped(frame)
            self._last = stamp if self._last is None or stamp > self._last else self._last + self._step
            yield Picture(frame, stamp, self._last)

    def _stamp_of(self, packet: Packet[VideoStream] | None) -> int:
        if packet is not None:
            for stamp in (packet.pts, packet.dts):
                if stamp is not None:
                    return stamp
        return 0 if self._last is None else self._last + self._step

    def _stamped(self, frame: VideoFrame) -> int:
        presentation, decoding = frame.pts, frame.dts
        self.late_presentation += self._late("presentation", presentation)
        self.late_decoding += self._late("decoding", decoding)
        wanted = (presentation, decoding) if self.shown_by == "presentation" else (decoding, None)
        stamp = next((one for one in wanted if one is not None), None)
        if stamp is None:
            stamp = 0 if self._last is None else self._last + self._step
        return stamp

    def _late(self, which: str, stamp: int | None) -> bool:
        if stamp is None:
            return False
        before = self._before.get(which)
        self._before[which] = stamp
        return before is not None and stamp <= before


def step_of(rate: Fraction | None, tick: Fraction) -> int:
    """Ticks of one picture at a rate; of none, of a 25th of a second (common practice, no source)."""
    return max(1, round(1 / ((rate or Fraction(25)) * tick)))
