"""Where pictures lie in files whose own time stamps cannot be relied on after seeking.

Streams of discs state a time only for some pictures (ISO/IEC 13818-1 asks for one in 0.7 s), and AVI and bare streams
for none; what libraries work out for the others depends on where reading began. So pictures are counted instead: by
the places of key pictures in the file, and by how many are shown before each.
"""

from __future__ import annotations  # Packet takes a parameter for the type checker only

import json
import threading
from array import array
from bisect import bisect_right
from collections.abc import Iterator, MutableMapping
from dataclasses import dataclass
from itertools import chain
from pathlib import Path

from av.packet import Packet
from av.video.stream import VideoStream
from cachetools import LRUCache

from cadrage.footage.container import opened
from cadrage.footage.decoding import Picture, PictureDecoder, step_of
from cadrage.footage.identity import ClipIdentity
from cadrage.footage.media_info import MediaInfo
from cadrage.footage.scan import COUNTED, WITHOUT_DECODING, scan
from cadrage.footage.timing import evened

WITHOUT_ORDER = (
    *("mjpeg", "dvvideo", "huffyuv", "ffvhuff", "ffv1", "rawvideo", "utvideo", "prores", "dnxhd", "png", "v210"),
)
"""Codecs whose pictures are shown in the order they are stored, so that nothing about their times is guessed."""
HELD = 16
FORM = 1  # of what is kept; raised when that changes, or how pictures are counted


@dataclass(frozen=True, slots=True)
class PictureIndex:
    """When each picture is shown, and where key pictures lie.

    Attributes:
        times: of all pictures in the order shown, in ticks.
        step: ticks of one picture.
        places: of key pictures, in bytes from the start of the file, with the number of the picture there.
    """

    times: array[int]
    step: int
    places: dict[int, int]

    def counted(
        self, decoder: PictureDecoder, packets: Iterator[Packet[VideoStream]], *, sought: bool
    ) -> Iterator[Picture]:
        """Decode packets, and give pictures the times that the index has for them.

        Args:
            decoder: to decode with.
            packets: from the start of the file, or from anywhere.
            sought: whether they come from anywhere; then pictures from the first known key picture on are given.
        """
        number = 0
        if sought:
            key = next((one for one in packets if one.is_keyframe and one.pos in self.places), None)
            if key is None:
                return
            number, packets = self.places[key.pos or 0], chain((key,), packets)
        begun = not sought
        for packet in chain(packets, (None,)):
            for picture in decoder.pictures(packet):
                begun = begun or picture.frame.key_frame
                if begun:
                    ticks = self._time(number)
                    yield Picture(picture.frame, ticks, ticks)
                    number += 1

    def _time(self, number: int) -> int:
        if not self.times:
            return number * self.step
        beyond = number - len(self.times) + 1
        return self.times[number] if beyond <= 0 else self.times[-1] + beyond * self.step


def needs_index(info: MediaInfo) -> bool:
    """Whether pictures of a clip are found by counting. Where some are damaged, counting leads nowhere."""
    return _stamps_guessed(info) and not info.damage and info.seekable


def seekable(info: MediaInfo) -> bool:
    """Whether pictures can be read from the middle of a clip; else they are read from its start."""
    return info.seekable and (needs_index(info) or not _stamps_guessed(info))


def _stamps_guessed(info: MediaInfo) -> bool:
    counted = info.demuxer in COUNTED and info.codec not in WITHOUT_ORDER
    return counted and info.shown_by == "presentation"


class _Indexes:
    """The indexes of clips used last; safe to share between threads.

    Attributes:
        kept: where their text is kept for other processes, and for after this one.
    """

    def __init__(self) -> None:
        self.kept: MutableMapping[str, str] = LRUCache(HELD)
        self._held: LRUCache[str, PictureIndex] = LRUCache(HELD)
        self._lock = threading.Lock()

    def of(self, path: Path, info: MediaInfo) -> PictureIndex:
        key = f"index {FORM} {path.resolve()} {ClipIdentity.of(path).fingerprint}"
        with self._lock:
            if (held := self._held.get(key)) is not None:
                return held
        made = self._stored(key)
        if made is None:
            made = _made(path, info)
            self.kept[key] = json.dumps({"times": list(made.times), "step": made.step, "places": made.places})
        with self._lock:
            self._held[key] = made
        return made

    def _stored(self, key: str) -> PictureIndex | None:
        try:
            given = json.loads(self.kept[key])
            places = {int(place): number for place, number in given["places"].items()}
            return PictureIndex(array("q", given["times"]), given["step"], places)
        except (ValueError, KeyError, TypeError):
            return None


_indexes = _Indexes()


def keep_indexes_in(kept: MutableMapping[str, str]) -> None:
    """Keep the text of indexes somewhere, such as in a folder of our own, so that each is made once for all processes.

    It is only kept in memory, as long as this process lasts, where nobody says.
    """
    _indexes.kept = kept


def index_of(path: Path, info: MediaInfo) -> PictureIndex:
    """The index of a clip, made by going through its packets where it is not held yet.

    Raises:
        MissingSource, UnreadableFile: it cannot be read.
    """
    return _indexes.of(path, info)


def _made(path: Path, info: MediaInfo) -> PictureIndex:
    with opened(path) as container:
        found = scan(container, path, info.shown_by, WITHOUT_DECODING)
        even = evened(found.times, found.tick, info.rate)
    places: dict[int, int] = {}
    for stamp, place in found.keys:
        number = bisect_right(found.times, stamp) - 1
        if number >= 0 and found.times[number] == stamp:
            # Two key pictures in one place could not be told apart.
            places[place] = -1 if place in places else number
    return PictureIndex(
        even, step_of(info.rate, found.tick), {place: number for place, number in places.items() if number >= 0}
    )
