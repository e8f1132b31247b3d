"""Finding a moment in a Matroska file that has no index (RFC 9559), as recorders write it that are cut off.

A library reads such a file from its start to wherever it is asked for. Its clusters can be found by their marks, and
each says its time: so a few looks, halving what is left, are enough. What is then read is the header of the file and
all from that cluster on, as one file.
"""

import io
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

CLUSTER, CUES = b"\x1f\x43\xb6\x75", b"\x1c\x53\xbb\x6b"
TIMESTAMP, CHECKSUM = 0xE7, b"\xbf\x84"
TIMESTAMP_SCALE = b"\x2a\xd7\xb1"
USUAL_SCALE = 1_000_000  # nanoseconds
HEAD = 4 * 2**20  # bytes within which the first cluster begins
PIECE = 2**20
FARTHEST = 64 * 2**20  # bytes from one cluster to the next, at most
WORTH = 16 * 2**20
"""Smaller files are read from their start in no time."""


@dataclass(frozen=True, slots=True)
class Clusters:
    """A file without an index.

    Attributes:
        path: of it.
        first: where its first cluster begins, in bytes.
        size: of the file.
        scale: nanoseconds of one tick of a cluster's clock.
    """

    path: Path
    first: int
    size: int
    scale: int

    def before(self, time: Fraction) -> int:
        """Where the last cluster begins that does not come after a time of the file's clock, in seconds."""
        low, high, found = self.first, self.size, self.first
        ticks = int(time * 1_000_000_000 / self.scale)
        with self.path.open("rb") as file:
            while high - low > PIECE:
                middle = (low + high) // 2
                place = _next_cluster(file, middle, high)
                if place is None or place[1] > ticks:
                    high = middle
                else:
                    low = found = place[0]
            while (place := _next_cluster(file, found + 1, self.size)) is not None and place[1] <= ticks:
                found = place[0]
        return found


def clusters_of(path: Path) -> Clusters | None:
    """What is needed to find moments in a file; None where it has an index, is small, or is no Matroska."""
    size = path.stat().st_size
    if size < WORTH:
        return None
    with path.open("rb") as file:
        head = file.read(HEAD)
    first = head.find(CLUSTER)
    if first < 0 or CUES in head[:first]:
        return None
    at = head.find(TIMESTAMP_SCALE, 0, first)
    scale = USUAL_SCALE if at < 0 else _integer(head, at + 3)
    return Clusters(path, first, size, scale or USUAL_SCALE)


def _next_cluster(file: io.BufferedReader, start: int, end: int) -> tuple[int, int] | None:
    """Place and time, in ticks, of the first cluster from a place on."""
    end = min(end, start + FARTHEST)
    while start < end:
        file.seek(start)
        piece = file.read(PIECE + 32)
        at = piece.find(CLUSTER)
        while 0 <= at < PIECE:
            if (ticks := _time_of(piece, at + len(CLUSTER))) is not None:
                return start + at, ticks
            at = piece.find(CLUSTER, at + 1)
        start += PIECE
    return None


def _time_of(data: bytes, at: int) -> int | None:
    """The time of a cluster whose size stands at a place; None where it is no cluster after all."""
    if at >= len(data) or data[at] == 0:
        return None
    at += 9 - data[at].bit_length()  # the size takes as many bytes as its first has leading zeros, and one
    if data[at : at + 2] == CHECKSUM:
        at += 6
    if at + 1 >= len(data) or data[at] != TIMESTAMP:
        return None
    return _integer(data, at + 1)


def _integer(data: bytes, at: int) -> int:
    """An unsigned integer whose length, of at most 8 bytes, stands at a place."""
    length = data[at] & 0x7F
    return int.from_bytes(data[at + 1 : at + 1 + length], "big") if length <= 8 else 0


class FromCluster:
    """The header of a file and all from one cluster on, as one file that is read once, from its start."""

    def __init__(self, clusters: Clusters, place: int) -> None:
        self._file = clusters.path.open("rb")
        self._head = self._file.read(clusters.first)
        self._file.seek(place)

    def read(self, size: int) -> bytes:
        """The next bytes."""
        if self._head:
            given, self._head = self._head[:size], self._head[size:]
            return given
        return self._file.read(size)

    def close(self) -> None:
        """Let go of the file."""
        self._file.close()
