"""What must be known of a MOV or MP4 before it is opened (ISO/IEC 14496-12; Apple's QuickTime File Format, chan).

Its edit list is counted, since one of many thousand entries takes libraries minutes. And tracks are found whose
channels are listed one by one: our binding to FFmpeg frees such a list twice, so that it must never be touched.
"""

import struct
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path
from typing import BinaryIO

FIRST = (b"ftyp", b"moov", b"mdat", b"free", b"skip", b"wide", b"pnot", b"moof", b"styp")
NESTS = (b"moov", b"trak", b"edts", b"mdia", b"minf", b"stbl")
MOST_BOXES = 100_000
LISTED_HARMLESSLY = (0x10000, 100 << 16 | 1, 101 << 16 | 2)
"""Tags of channel lists that libraries take as a plain layout: a bitmap, mono, stereo."""


@dataclass(slots=True)
class Movie:
    """What stands in the boxes.

    Attributes:
        edits: entries of the longest edit list.
        channels: of each track, how many channels it has where they are listed one by one; else 0.
    """

    edits: int = 0
    channels: list[int] = field(default_factory=list)


def read_movie(path: Path) -> Movie:
    """Look through the boxes of a file; an empty answer where it is no MOV or MP4."""
    found = Movie()
    with path.open("rb") as file:
        if file.read(8)[4:8] in FIRST:
            left = MOST_BOXES
            for kind, start, end in _boxes(file, 0, path.stat().st_size):
                left -= 1
                if kind == b"moov":
                    _within(file, start, end, found, left)
                if left <= 0:
                    break
    return found


def _boxes(file: BinaryIO, start: int, end: int) -> Iterator[tuple[bytes, int, int]]:
    """Kind, begin and end of what is in each box of a stretch of bytes."""
    while start + 8 <= end:
        file.seek(start)
        head = file.read(16)
        if len(head) < 8:
            return
        size, kind = struct.unpack_from(">I4s", head)
        inner = start + 8
        if size == 1 and len(head) == 16:
            size, inner = struct.unpack_from(">Q", head, 8)[0], start + 16
        if size == 0:
            size = end - start
        if size < inner - start:
            return
        yield kind, inner, min(start + size, end)
        start += size


def _within(file: BinaryIO, start: int, end: int, found: Movie, left: int) -> None:
    for kind, inner, until in _boxes(file, start, end):
        left -= 1
        if left <= 0:
            return
        if kind == b"trak":
            found.channels.append(0)
        if kind in NESTS:
            _within(file, inner, until, found, left)
        elif kind == b"elst":
            found.edits = max(found.edits, _number(file, inner + 4))
        elif kind == b"stsd" and found.channels:
            found.channels[-1] = _listed(file, inner + 8, until)


def _number(file: BinaryIO, at: int, size: int = 4) -> int:
    file.seek(at)
    return int.from_bytes(file.read(size), "big")


def _listed(file: BinaryIO, start: int, end: int) -> int:
    """Channels of the first sound among sample entries, if a chan or chnl box lists them; else 0."""
    for _, inner, until in _boxes(file, start, end):
        file.seek(inner)
        entry = file.read(min(until - inner, 64 * 1024))
        for name in (b"chan", b"chnl"):
            at = entry.find(name)
            if at > 0 and (name == b"chnl" or _number_in(entry, at + 8) not in LISTED_HARMLESSLY):
                version_two = _number_in(entry, 8, 2) == 2
                return _number_in(entry, 40) if version_two else _number_in(entry, 16, 2)
    return 0


def _number_in(data: bytes, at: int, size: int = 4) -> int:
    return int.from_bytes(data[at : at + size], "big")
