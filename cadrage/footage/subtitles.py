"""Tracks of subtitles, and the words in them."""

from __future__ import annotations  # Packet takes a parameter for the type checker only

import re
from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

import av
from av.container import InputContainer
from av.subtitles.stream import SubtitleStream

from cadrage.footage.container import opened
from cadrage.footage.media_info import SubtitleInfo

WORDS = ("subrip", "srt", "mov_text", "ass", "ssa", "webvtt", "text")
"""Codecs that hold words; others hold pictures of them."""
MOST_LINES = 50_000  # of one track; a day of speech has fewer
DIALOGUE_FIELDS = 8  # before the text of a line of SSA, as Matroska stores it


@dataclass(frozen=True, slots=True)
class Words:
    """Words that are shown for a while; times in seconds on the file's clock."""

    start: Fraction
    end: Fraction
    text: str


def subtitle_facts(container: InputContainer) -> tuple[SubtitleInfo, ...]:
    """The tracks of subtitles of a file."""
    return tuple(
        SubtitleInfo(
            codec=stream.codec_context.name,
            stream=stream.index,
            is_text=stream.codec_context.name in WORDS,
            language=stream.metadata.get("language", "")[:3],
            title=stream.metadata.get("title", "")[:200],
        )
        for stream in container.streams.subtitles
        if stream.codec_context is not None
    )


def words_of(path: Path, number: int) -> Iterator[Words]:
    """What a track says, in the order of the file, as far as it can be read.

    Args:
        path: the file.
        number: of the track among all streams.

    Raises:
        MissingSource, UnreadableFile: the file cannot be read.
    """
    with opened(path) as container:
        stream = container.streams[number]
        assert isinstance(stream, SubtitleStream)
        codec, count = stream.codec_context.name, 0
        try:
            for packet in container.demux(stream):
                if packet.pts is None or not packet.size or not packet.time_base:
                    continue
                text = text_of(bytes(packet), codec)
                if text:
                    start = packet.pts * packet.time_base
                    yield Words(start, start + (packet.duration or 0) * packet.time_base, text)
                    count += 1
                if count >= MOST_LINES:
                    return
        except av.FFmpegError:
            return


def text_of(data: bytes, codec: str) -> str:
    """The words of one packet in lines, without marks of style but <i>, <b> and <u>."""
    if codec == "mov_text":
        length = int.from_bytes(data[:2], "big")
        data = data[2 : 2 + length]
    text = data.decode("utf-8", "replace")
    if codec in ("ass", "ssa"):
        text = text.split(",", DIALOGUE_FIELDS)[-1]
        text = re.sub(r"\\\\[Nn]|\\[Nn]", "\n", re.sub(r"\{[^}]*\}", "", text))
    text = re.sub(r"<(?!/?[ibu]>)/?[a-zA-Z][^<>]{0,80}>", "", text)
    return "\n".join(line.strip() for line in text.replace("\r", "").split("\n")).strip("\n\0 ")
