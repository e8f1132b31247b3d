"""Fragments of a stream as browsers play them: H.264 and FLAC in ISO base media files (ISO/IEC 14496-12, 8.8)."""

from __future__ import annotations  # Packet takes a parameter for the type checker only

import struct
from collections.abc import Iterable
from fractions import Fraction
from typing import Any, Literal

import av
from av.packet import Packet

from cadrage.pixels.planes import Layout
from cadrage.playing.pictures import DRAWN, Shown
from cadrage.playing.sound import RATE, SAMPLES
from cadrage.render.encoder import LIMITED_RANGE

TICK = Fraction(1, 90_000)  # the clock of pictures, in which all usual rates are whole (ISO/IEC 13818-1)
PICTURE = {"preset": "superfast", "tune": "zerolatency", "crf": "16"}
"""Encoder options for low delay at a quality that bears a close look: no picture waits for the next."""
SOUND = {"compression_level": "0"}  # the shortest blocks, 24 ms, for a low delay
OPTIONS = {
    "movflags": "frag_every_frame+empty_moov+default_base_moof+frag_discont+skip_trailer",
    "flush_packets": "1",
    "avoid_negative_ts": "disabled",  # otherwise every file would start at time 0
}
PICTURE_TYPE = 'video/mp4; codecs="avc1.640028"'
SOUND_TYPE = 'audio/mp4; codecs="flac"'
"""Types that a browser must be able to play (RFC 6381). FLAC is lossless and exact to the sample."""
Kind = Literal["picture", "sound"]
KINDS: dict[Kind, int] = {"picture": 0, "sound": 1}
BEGIN = struct.Struct(">BI")
"""Header of every piece: its kind, and its length in bytes."""


def piece(kind: Kind, data: bytes) -> bytes:
    """Return data with its header; empty data gives an empty piece.

    Picture and sound are separate files: FFmpeg's muxer (8.0) loses sound times when it fragments both.
    """
    return BEGIN.pack(KINDS[kind], len(data)) + data if data else b""


class _Pipe:
    """Buffer of written bytes."""

    def __init__(self) -> None:
        self._parts: list[bytes] = []

    def write(self, data: bytes) -> int:
        self._parts.append(bytes(data))
        return len(data)

    def read_all(self) -> bytes:
        """Return and remove all bytes."""
        data, self._parts = b"".join(self._parts), []
        return data


class _Fragments:
    """A file that is streamed while it is written."""

    def __init__(self) -> None:
        self._pipe = _Pipe()
        self.container = av.open(self._pipe, "w", format="mp4", options=OPTIONS)

    def mux(self, packets: Iterable[Packet[Any]], duration: int) -> bytes:
        """Write packets and return the bytes to send.

        Args:
            packets: of one stream.
            duration: in ticks of the stream, for packets without one: the next packet is not known yet.
        """
        for packet in packets:
            packet.duration = packet.duration or duration
            self.container.mux(packet)
        return self._pipe.read_all()

    def close(self) -> bytes:
        """Return the bytes to send at the end."""
        self.container.close()
        return self._pipe.read_all()


class PictureTrack:
    """Encodes pictures of one size.

    Args:
        layout: of the pictures.
        rate: approximate number of pictures a second.
    """

    def __init__(self, layout: Layout, rate: Fraction) -> None:
        self.layout, self._lasts = layout, round(1 / rate / TICK)
        self._file = _Fragments()
        self._stream = self._file.container.add_stream("libx264", rate=rate, options=PICTURE)
        context = self._stream.codec_context
        context.width, context.height, context.pix_fmt = layout.width, layout.height, DRAWN
        context.colorspace, context.color_range = layout.colour.matrix_code, LIMITED_RANGE
        context.color_primaries, context.color_trc = layout.colour.primaries, layout.colour.transfer
        context.gop_size = max(1, round(rate))
        context.thread_count = 2
        context.time_base = self._stream.time_base = TICK

    def show(self, picture: Shown) -> bytes:
        """Encode a picture and return the bytes to send."""
        picture.frame.pts, picture.frame.time_base = round(picture.time / TICK), TICK
        return self._file.mux(self._stream.encode(picture.frame), self._lasts)

    def finish(self) -> bytes:
        """Return the bytes that the encoder still held, and the end of the file."""
        return self._file.mux(self._stream.encode(None), self._lasts) + self._file.close()


class SoundTrack:
    """Encodes sound of 16 bits.

    Args:
        layout: of its channels.

    Attributes:
        position: number of samples encoded so far.
    """

    def __init__(self, layout: str) -> None:
        self._file = _Fragments()
        self._stream = self._file.container.add_stream("flac", rate=RATE, layout=layout, options=SOUND)
        context = self._stream.codec_context
        context.format = SAMPLES
        context.open()
        self._framer = av.AudioResampler(SAMPLES, layout, RATE, frame_size=context.frame_size)
        self.position = 0

    def hear(self, frame: av.AudioFrame) -> bytes:
        """Encode sound that follows the previous call's, and return the bytes to send."""
        frame.pts, frame.time_base, frame.sample_rate = self.position, Fraction(1, RATE), RATE
        self.position += frame.samples
        blocks = self._framer.resample(frame)
        return b"".join(self._file.mux(self._stream.encode(block), block.samples) for block in blocks)
