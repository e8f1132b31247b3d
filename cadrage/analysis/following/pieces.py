"""Pieces of evidence: a shot, or a minute of one, each in its own file until all are joined."""

import io
from dataclasses import dataclass, replace
from fractions import Fraction
from pathlib import Path

import cv2
import numpy as np
from numpy.typing import NDArray

from cadrage import files
from cadrage.analysis.detectors.box import Box
from cadrage.analysis.following.evidence import Evidence, Thing
from cadrage.analysis.following.samples import Grey

NAME = "piece-{:05d}.npz"
QUALITY = 80
CONTINUES = 0.4
"""Overlap of boxes at either side of a seam within a shot from which they are of one thing."""


@dataclass(frozen=True)
class Piece:
    """The evidence in a part of a shot.

    Attributes:
        number: of the piece, from 0.
        shot: the number of the shot, from 0.
        start, end: when it begins and ends, in seconds from the clip's first picture.
        cut_after: whether its shot ends with it.
        seen: its samples; who is who counts within the piece.
        pictures: its samples as they were looked at, each a JPEG.
    """

    number: int
    shot: int
    start: Fraction
    end: Fraction
    cut_after: bool
    seen: Evidence
    pictures: tuple[bytes, ...]

    def keep(self, folder: Path) -> None:
        """Write it to a folder."""
        lengths = np.array([len(picture) for picture in self.pictures], np.int64)
        about = np.array([str(self.shot), str(self.start), str(self.end), str(int(self.cut_after))])
        packed = np.frombuffer(b"".join(self.pictures), np.uint8)
        data = io.BytesIO()
        np.savez(data, allow_pickle=False, piece=about, lengths=lengths, pictures=packed, **self.seen.arrays())
        files.write_whole_data(folder / NAME.format(self.number), data.getvalue())


def pieces_in(folder: Path) -> list[Piece]:
    """The pieces that lie in a folder, in their order, without their pictures; none behind one that is missing."""
    found: list[Piece] = []
    while (path := folder / NAME.format(len(found))).exists():
        with np.load(path) as arrays:
            shot, start, end, cut = (str(text) for text in arrays["piece"])
            seen = Evidence.of_arrays(arrays)
        found.append(Piece(len(found), int(shot), Fraction(start), Fraction(end), cut == "1", seen, ()))
    return found


def picture_jpeg(grey: Grey) -> bytes:
    """A picture that is looked at, for keeping."""
    return bytes(cv2.imencode(".jpg", grey, [cv2.IMWRITE_JPEG_QUALITY, QUALITY])[1])


def greys_in(folder: Path, first: int, end: int) -> list[Grey]:
    """The pictures of some samples, as they were looked at.

    Args:
        folder: of the analysis.
        first: number of the first sample.
        end: number of the one after the last.
    """
    found: list[Grey] = []
    before = number = 0
    while before < end and (path := folder / NAME.format(number)).exists():
        with np.load(path) as arrays:
            ends = np.cumsum(arrays["lengths"])
            if before + len(ends) > first:
                packed = arrays["pictures"]
                for at in range(max(0, first - before), min(len(ends), end - before)):
                    start = int(ends[at - 1]) if at else 0
                    found.append(np.asarray(cv2.imdecode(packed[start : ends[at]], cv2.IMREAD_GRAYSCALE), np.uint8))
        before, number = before + len(ends), number + 1
    return found


def joined(pieces: list[Piece]) -> tuple[tuple[Fraction, ...], Evidence]:
    """When shots begin, and all that was seen; things go on over the seams within a shot."""
    starts = tuple(piece.start for piece in pieces if piece.number == 0 or pieces[piece.number - 1].cut_after)
    things: list[Thing] = []
    before = people = 0
    open_ended: list[int] = []
    for piece in pieces:
        names: dict[int, int] = {}
        ended: list[int] = []
        for thing in piece.seen.things:
            going = [at for at in open_ended if _goes_on(things[at], thing)] if thing.start == 0 else []
            if thing.who not in names:
                names[thing.who] = things[going[0]].who if going else people
                people += not going
            moved = replace(thing, who=names[thing.who], start=thing.start + before)
            if going:
                open_ended.remove(going[0])
                things[going[0]] = _one(things[going[0]], moved)
                at = going[0]
            else:
                things.append(moved)
                at = len(things) - 1
            if thing.end == len(piece.seen.times):
                ended.append(at)
        before += len(piece.seen.times)
        open_ended = [] if piece.cut_after else ended
    parts = [piece.seen for piece in pieces]
    return starts, Evidence(
        np.concatenate([part.times for part in parts]),
        np.concatenate([np.full(len(piece.seen.times), piece.shot, np.int32) for piece in pieces]),
        np.concatenate([part.camera for part in parts]),
        np.concatenate([part.across for part in parts]),
        np.concatenate([part.down for part in parts]),
        tuple(sorted(things, key=lambda thing: thing.start)),
        parts[0].part,
    )


def _goes_on(before: Thing, after: Thing) -> bool:
    if before.kind != after.kind:
        return False
    one, other = (_box(row) for row in (before.boxes[-1], after.boxes[0]))
    return one.shared(other) > CONTINUES * min(one.area, other.area)


def _box(row: NDArray[np.float32]) -> Box:
    x, y, width, height = (float(side) for side in row[:4])
    return Box.about((x, y), width, height)


def _one(before: Thing, after: Thing) -> Thing:
    boxes, seen = np.concatenate([before.boxes, after.boxes]), np.concatenate([before.seen, after.seen])
    return replace(before, boxes=boxes, seen=seen)
