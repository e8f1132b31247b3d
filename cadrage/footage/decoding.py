"""Decoding a stream of pictures packet by packet, past what is damaged."""

from __future__ import annotations  # Packet takes a parameter for the type checker only

from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction
from typing import Literal

import av
from av.codec.context import CodecContext
from av.packet import Packet
from av.video.codeccontext import VideoCodecContext
from av.video.frame import VideoFrame
from av.video.stream import VideoStream

ALPHA_DECODERS = {"vp8": "libvpx", "vp9": "libvpx-vp9"}
"""Decoders that also read the coverage that WebM and Matroska carry beside the pictures of these codecs, as a second
stream in BlockAdditional elements (WebM Container Guidelines, "Alpha Channel"); the usual decoders leave it out."""

MOST_UNSTAMPED = 32  # pictures that are held back until one has a time
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
        self._context = picture_context(stream)
        self.shown_by, self._step = shown_by, max(1, step)
        self.errors: list[int] = []
        self.late_presentation = self.late_decoding = 0
        self._stamps: dict[str, int] = {}
        self._unstamped: list[VideoFrame] = []
        self._last: int | None = None

    def pictures(self, packet: Packet[VideoStream] | None) -> Iterator[Picture]:
        """What comes out for a packet; None for all that is still held."""
        try:
            frames = self._context.decode(packet)
        except (av.FFmpegError, ValueError):
            self.errors.append(self._stamp_of(packet))
            frames = []
        for frame in frames:
            stamp = self._stamped(frame)
            if stamp is None and self._last is None and len(self._unstamped) < MOST_UNSTAMPED:
                self._unstamped.append(frame)
                continue
            yield from self._before(stamp or 0)
            yield self._next(frame, stamp)
        if packet is None:
            yield from self._before(len(self._unstamped) * self._step)

    def _before(self, stamp: int) -> Iterator[Picture]:
        """First pictures that have no time of their own: they come just before the first that has one."""
        held, self._unstamped = self._unstamped, []
        for number, frame in enumerate(held):
            yield self._next(frame, stamp - (len(held) - number) * self._step)

    def _next(self, frame: VideoFrame, stamp: int | None) -> Picture:
        if stamp is None:
            stamp = 0 if self._last is None else self._last + self._step
        self._last = stamp if self._last is None or stamp > self._last else self._last + self._step
        return Picture(frame, stamp, self._last)

    def _stamp_of(self, packet: Packet[VideoStream] | None) -> int:
        if packet is not None:
            for stamp in (packet.pts, packet.dts):
                if stamp is not None:
                    return stamp
        return 0 if self._last is None else self._last + self._step

    def _stamped(self, frame: VideoFrame) -> int | None:
        presentation, decoding = frame.pts, frame.dts
        self.late_presentation += self._late("presentation", presentation)
        self.late_decoding += self._late("decoding", decoding)
        wanted = (presentation, decoding) if self.shown_by == "presentation" else (decoding, None)
        return next((one for one in wanted if one is not None), None)

    def _late(self, which: str, stamp: int | None) -> bool:
        if stamp is None:
            return False
        before = self._stamps.get(which)
        self._stamps[which] = stamp
        return before is not None and stamp <= before


def picture_context(stream: VideoStream) -> VideoCodecContext:
    """The decoder of a stream: its own, or one that also reads its coverage where the container says it has some."""
    own = stream.codec_context
    name = ALPHA_DECODERS.get(own.name)
    # Readers give the name as the header's element has it, or in capitals as tags have it.
    tags = {key.lower(): value for key, value in stream.metadata.items()}
    if name is None or tags.get("alpha_mode") != "1":
        return own
    context = CodecContext.create(name, "r")
    assert isinstance(context, VideoCodecContext)
    context.extradata, context.width, context.height = own.extradata, own.width, own.height
    context.color_range, context.colorspace = own.color_range, own.colorspace
    context.color_primaries, context.color_trc = own.color_primaries, own.color_trc
    return context


def step_of(rate: Fraction | None, tick: Fraction) -> int:
    """Ticks of one picture at a rate; of none, of a 25th of a second (common practice, no source)."""
    return max(1, round(1 / ((rate or Fraction(25)) * tick)))
