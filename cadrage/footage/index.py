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
from collections import OrderedDict
from collections.abc import Iterator
from contextlib import suppress
from dataclasses import dataclass
from hashlib import blake2b
from itertools import chain
from pathlib import Path

from av.packet import Packet
from av.video.stream import VideoStream

from cadrage.files import keep_newest, write_whole
from cadrage.footage.container import opened
from cadrage.footage.decoding import Picture, PictureDecoder, step_of
from cadrage.footage.facts import Facts
from cadrage.footage.fingerprint import fingerprint
from cadrage.footage.scan import COUNTED, WITHOUT_DECODING, scan
from cadrage.footage.timing import evened

WITHOUT_ORDER = (
    *("mjpeg", "dvvideo", "huffyuv", "ffvhuff", "ffv1", "rawvideo", "utvideo", "prores", "dnxhd", "png", "v210"),
)
"""Codecs whose pictures are shown in the order they are stored, so that nothing about their times is guessed."""
KEPT, KEPT_ON_DISK = 16, 200
SUFFIX = ".index"


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


def needs_index(facts: Facts) -> bool:
    """Whether pictures of a clip are found by counting. Where some are damaged, counting leads nowhere."""
    return _stamps_guessed(facts) and not facts.damage and facts.seekable


def seekable(facts: Facts) -> bool:
    """Whether pictures can be read from the middle of a clip; else they are read from its start."""
    return facts.seekable and (needs_index(facts) or not _stamps_guessed(facts))


def _stamps_guessed(facts: Facts) -> bool:
    counted = facts.demuxer in COUNTED and facts.codec not in WITHOUT_ORDER
    return counted and facts.shown_by == "presentation"


class _Indexes:
    """The indexes of clips used last; safe to share between threads.

    Attributes:
        folder: where they are kept for other processes, and for after this one; nowhere where None.
    """

    def __init__(self) -> None:
        self.folder: Path | None = None
        self._held: OrderedDict[str, PictureIndex] = OrderedDict()
        self._lock = threading.Lock()

    def of(self, path: Path, facts: Facts) -> PictureIndex:
        key = blake2b(f"{path.resolve()} {fingerprint(path)}".encode(), digest_size=16).hexdigest()
        with self._lock:
            if key in self._held:
                self._held.move_to_end(key)
                return self._held[key]
        made = self._stored(key) or self._store(key, _made(path, facts))
        with self._lock:
            self._held[key] = made
            while len(self._held) > KEPT:
                self._held.popitem(last=False)
        return made

    def _stored(self, key: str) -> PictureIndex | None:
        if self.folder is None:
            return None
        try:
            given = json.loads((self.folder / f"{key}{SUFFIX}").read_text())
            places = {int(place): number for place, number in given["places"].items()}
            return PictureIndex(array("q", given["times"]), given["step"], places)
        except (OSError, ValueError, KeyError, TypeError):
            return None

    def _store(self, key: str, made: PictureIndex) -> PictureIndex:
        if self.folder is not None:
            text = json.dumps({"times": list(made.times), "step": made.step, "places": made.places})
            with suppress(OSError):
                write_whole(self.folder / f"{key}{SUFFIX}", text)
                keep_newest(self.folder, f"*{SUFFIX}", KEPT_ON_DISK)
        return made


_indexes = _Indexes()


def keep_indexes_in(folder: Path) -> None:
    """Keep indexes in a folder of our own, so that each is made once for all processes."""
    _indexes.folder = folder


def index_of(path: Path, facts: Facts) -> PictureIndex:
    """The index of a clip, made by going through its packets where it is not held yet.

    Raises:
        MissingSource, UnreadableFile: it cannot be read.
    """
    return _indexes.of(path, facts)


def _made(path: Path, facts: Facts) -> PictureIndex:
    with opened(path) as container:
        found = scan(container, path, facts.shown_by, WITHOUT_DECODING)
        even = evened(found.times, found.tick, facts.rate)
    places: dict[int, int] = {}
    for stamp, place in found.keys:
        number = bisect_right(found.times, stamp) - 1
        if number >= 0 and found.times[number] == stamp:
            # Two key pictures in one place could not be told apart.
            places[place] = -1 if place in places else number
    return PictureIndex(
        even, step_of(facts.rate, found.tick), {place: number for place, number in places.items() if number >= 0}
    )
