"""Tracks of subtitles carried into the new file, as words in the form its kind has for them."""

import re
from collections.abc import Callable, Iterator
from fractions import Fraction
from typing import Any

import av
from av.container import OutputContainer

from cadrage.footage import effective_timing
from cadrage.footage.media_info import SubtitleInfo
from cadrage.footage.subtitles import words_of
from cadrage.render.request import RenderRequest
from cadrage.render.sound_placing import AudioTrim
from cadrage.render.track_tags import tags_of

TICK = Fraction(1, 1000)
LONGEST_TEXT = 2**16 - 1  # bytes, of a sample of 3GPP timed text
CODECS = {"mp4": "mov_text", "mov": "mov_text", "matroska": "subrip", "webm": "webvtt"}
"""What words are written as in each container."""
HEADER = b"""[Script Info]
ScriptType: v4.00+
[V4+ Styles]
Format: Name, Fontname, Fontsize, PrimaryColour, SecondaryColour, OutlineColour, BackColour, Bold, Italic, Underline, \
StrikeOut, ScaleX, ScaleY, Spacing, Angle, BorderStyle, Outline, Shadow, Alignment, MarginL, MarginR, MarginV, Encoding
Style: Default,Arial,16,&Hffffff,&Hffffff,&H0,&H0,0,0,0,0,100,100,0,0,1,1,0,2,10,10,10,0
[Events]
Format: Layer, Start, End, Style, Name, MarginL, MarginR, MarginV, Effect, Text
"""
"""A style as FFmpeg's encoders of subtitles want to be told one before they write the header of a track."""


class SubtitleTracks:
    """The tracks of a file that is written.

    Args:
        request: what is asked for.
        target: the file; a stream is added to it for each track.
        picture_start: time stamp of the clip's first picture in seconds.
    """

    def __init__(self, request: RenderRequest, target: OutputContainer, picture_start: Fraction) -> None:
        self._request, self._target = request, target
        own = effective_timing(request.info, request.interpretation).duration
        self._trim = AudioTrim.of(request.timing, picture_start, own)
        codec = CODECS.get(request.encoder_config.kind.muxer, "")
        self._tracks = [(info, self._stream(codec, info)) for info in request.subtitles]

    def _stream(self, codec: str, info: SubtitleInfo) -> Any:  # noqa: ANN401 - PyAV has no name for it here
        stream: Any = self._target.add_stream(codec)
        stream.codec_context.subtitle_header = HEADER
        stream.time_base = TICK
        stream.codec_context.open()
        stream.metadata.update(tags_of(info, self._request.encoder_config.kind.muxer))
        return stream

    def write(self) -> None:
        """Write all of them; they are few beside picture and sound, so the file puts them in their places."""
        for info, stream in self._tracks:
            form: Callable[[str], bytes] = _timed_text if stream.codec_context.name == "mov_text" else str.encode
            for start, end, text in self._delivered(info):
                packet = av.Packet(form(text))
                packet.pts = packet.dts = round(start / TICK)
                packet.duration, packet.time_base = max(1, round((end - start) / TICK)), TICK
                packet.stream = stream
                self._target.mux(packet)

    def _delivered(self, info: SubtitleInfo) -> Iterator[tuple[Fraction, Fraction, str]]:
        """Words with their times in the file."""
        trim, last = self._trim, Fraction(-1)
        for words in words_of(self._request.source, info.stream):
            end = words.end if trim.end is None else min(words.end, trim.end)
            start = max(words.start, trim.start)
            if start < end and start > last:
                yield (start - trim.start) / trim.speed, (end - trim.start) / trim.speed, words.text
                last = start


def _timed_text(text: str) -> bytes:
    """A sample of 3GPP timed text (3GPP TS 26.245, 5.17): its length, then the words."""
    data = re.sub(r"</?[ibu]>", "", text).encode()[:LONGEST_TEXT]
    return len(data).to_bytes(2, "big") + data
