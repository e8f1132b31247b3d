"""What must be known of a MOV or MP4 before it is opened (ISO/IEC 14496-12; Apple's QuickTime File Format, chan).

Its edit list is counted, since one of many thousand entries takes libraries minutes. And tracks are found whose
channels are listed one by one: our binding to FFmpeg frees such a list twice, so that it must never be touched.
"""

import struct
from collections.abc import Iterator
from dataclasses import dataclass, field
from itertools import islice
from pathlib import Path
from typing import BinaryIO

FIRST = (b"ftyp", b"moov", b"mdat", b"free", b"skip", b"wide", b"pnot", b"moof", b"styp")
NESTS = (b"moov", b"trak", b"edts", b"mdia", b"minf", b"stbl")
MAX_BOXES = 100_000
MAX_DEPTH = 12  # boxes in boxes; those of any real movie lie in six at most
LISTED_HARMLESSLY = (0x10000, 100 << 16 | 1, 101 << 16 | 2)
"""Tags of channel lists that libraries take as a plain layout: a bitmap, mono, stereo."""


@dataclass(slots=True)
class Movie:
    """What stands in the boxes.

    Attributes:
        edits: entries of the longest edit list.
        depth: in how many others the innermost box lies, up to one more than `MAX_DEPTH`.
        channels: of each track, how many channels it has where they are listed one by one; else 0.
    """

    edits: int = 0
    depth: int = 0
    channels: list[int] = field(default_factory=list)


def read_movie(path: Path) -> Movie:
    """Look through the boxes of a file; an empty answer where it is no MOV or MP4."""
    found = Movie()
    with path.open("rb") as file:
        if file.read(8)[4:8] in FIRST:
            for kind, start, end, depth in islice(_nested(file, path.stat().st_size), MAX_BOXES):
                found.depth = max(found.depth, depth)
                if kind == b"trak":
                    found.channels.append(0)
                elif kind == b"elst":
                    found.edits = max(found.edits, _number(file, start + 4))
                elif kind == b"stsd" and found.channels:
                    found.channels[-1] = _listed(file, start + 8, end)
    return found


def _nested(file: BinaryIO, size: int) -> Iterator[tuple[bytes, int, int, int]]:
    """Kind, begin and end of every box of a movie in the order of the file, and how many boxes it lies in."""
    levels = [_boxes(file, 0, size)]
    while levels:
        box = next(levels[-1], None)
        if box is None:
            levels.pop()
            continue
        kind, start, end = box
        yield kind, start, end, len(levels) - 1
        if kind in NESTS and len(levels) <= MAX_DEPTH + 1:
            levels.append(_boxes(file, start, end))


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
